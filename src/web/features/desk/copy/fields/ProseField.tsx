import { Node } from "@tiptap/core";
import { Bold } from "@tiptap/extension-bold";
import { Document } from "@tiptap/extension-document";
import { HardBreak } from "@tiptap/extension-hard-break";
import { Italic } from "@tiptap/extension-italic";
import { Link } from "@tiptap/extension-link";
import { BulletList, ListItem, ListKeymap, OrderedList } from "@tiptap/extension-list";
import { Paragraph } from "@tiptap/extension-paragraph";
import { Text } from "@tiptap/extension-text";
import { type Editor, EditorContent, useEditor, useEditorState } from "@tiptap/react";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, ask } from "../../../../api/client";
import type { RichText } from "../../../../api/types";
import { hasNodes, type InlineNode, nodesIn } from "../../../../shared/nodes";
import { NodeMenu } from "../../../nodes/NodeMenu";
import { InlineReference, putReference, SlashAsks } from "../../../nodes/nodeExtension";
import { useNodeOffers } from "../../../nodes/nodeOffers";
import classes from "./fields.module.css";
import { LinkButton } from "./LinkButton";
import { notesOf } from "./notesOf";
import { fromEditor, toEditor, wordsKey, wordsOfVariables } from "./proseJson";

/** A brand variable inside text: shown by its words, kept by its key. */
const Variable = Node.create({
  name: "variable",
  group: "inline",
  inline: true,
  atom: true,
  marks: "_",
  addAttributes: () => ({ key: { default: "" }, text: { default: "" } }),
  parseHTML: () => [{ tag: "span[data-variable]" }],
  renderHTML: ({ node }) => ["span", { "data-variable": node.attrs.key }, node.attrs.text || node.attrs.key],
});

const inOneParagraph = [
  Paragraph,
  Text,
  Bold,
  Italic,
  HardBreak,
  Link.configure({ openOnClick: false, autolink: false }),
  Variable,
  InlineReference,
];
const extensions = [Document, ...inOneParagraph, BulletList, OrderedList, ListItem, ListKeymap];
const oneOnly = [Document.extend({ content: "paragraph" }), ...inOneParagraph];

interface Props {
  id: string;
  label: string;
  value: RichText;
  /** The same with brand variables filled in; undefined: there are none. */
  resolved?: RichText;
  note: string;
  asked: number;
  caret?: number;
  placeholder?: string;
  broken?: boolean;
  /** BCP 47 tag that the spelling goes by. */
  lang?: string;
  /** One paragraph without lists. */
  oneParagraph?: boolean;
  onChange: (value: RichText) => void;
  /** Where the text may be split: called with what stands before the caret and after it. */
  onSplit?: (first: RichText, rest: RichText) => void;
}

const nodesOf = (text: RichText): InlineNode[] =>
  (text.paragraphs ?? [])
    .flatMap((paragraph) => paragraph.runs ?? [])
    .flatMap((run) => (hasNodes(run.text ?? "") ? nodesIn(run.text ?? "").filter((part) => typeof part === "object") : []));

// It may not be there yet, or not any more: where the room is drawn anew it is made anew, and all is done again for that one.
const isThere = (editor: Editor | null): editor is Editor => editor !== null && !editor.isDestroyed;

/** Text with paragraphs, lists, emphasis and links, and no dress of its own. */
export default function ProseField({
  id,
  label,
  value,
  resolved,
  note,
  asked,
  caret,
  placeholder,
  broken,
  lang = "",
  oneParagraph = false,
  onChange,
  onSplit,
}: Props) {
  const { shown, can } = useNodeOffers();
  const [inserting, setInserting] = useState(false);
  const written = useRef(JSON.stringify(value));
  const words = new Map([...wordsOfVariables(resolved), ...nodesOf(value).map((node) => [wordsKey(node), shown(node) ?? ""] as const)]);
  const all = useMemo(
    () => [...(oneParagraph ? oneOnly : extensions), ...(can ? [SlashAsks(() => setInserting(true))] : [])],
    [oneParagraph, can],
  );
  const send = useRef(onChange);
  send.current = onChange;
  const pasted = useRef<Editor | null>(null);
  const editor = useEditor({
    extensions: all,
    content: toEditor(value, words),
    editorProps: {
      attributes: {
        id,
        class: classes.prose ?? "",
        role: "textbox",
        "aria-multiline": "true",
        "aria-labelledby": `${id}-label`,
        "aria-describedby": notesOf(id),
        lang,
        spellcheck: "true",
      },
      // What it means is kept and its dress is not: the server reads it, for word processors hide lists in their styles.
      handlePaste: (_, event) => {
        const html = event.clipboardData?.getData("text/html");
        const text = event.clipboardData?.getData("text/plain") ?? "";
        // What was copied from a text of the desk goes as it is.
        if (!html || html.includes("data-pm-slice")) {
          return false;
        }
        event.preventDefault();
        ask(api.POST("/api/emails/paste", { body: { html, text: null } })).then(
          (read) => {
            const content = toEditor(read).content ?? [];
            const only = content.length === 1 && content[0]?.type === "paragraph" ? content[0].content : undefined;
            pasted.current?.commands.insertContent(only ?? content);
          },
          () => pasted.current?.commands.insertContent(text),
        );
        return true;
      },
    },
    onUpdate: ({ editor: changed }) => {
      const text = fromEditor(changed.getJSON());
      written.current = JSON.stringify(text);
      send.current(text);
    },
  });
  pasted.current = editor;
  const active = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      empty: e?.isEmpty ?? true,
      bold: e?.isActive("bold") ?? false,
      italic: e?.isActive("italic") ?? false,
      bullets: e?.isActive("bulletList") ?? false,
      numbers: e?.isActive("orderedList") ?? false,
      link: e?.isActive("link") ?? false,
    }),
  });

  // Someone else's words, or an undo: what stands in the editor is replaced.
  const said = JSON.stringify(value);
  const named = JSON.stringify([...words]);
  useEffect(() => {
    if (isThere(editor) && said !== written.current) {
      written.current = said;
      editor.commands.setContent(toEditor(JSON.parse(said), new Map(JSON.parse(named))), { emitUpdate: false });
    }
  }, [said, named, editor]);
  // The words that variables and snippets are shown by change in their places: the caret stays.
  useEffect(() => {
    const now = new Map<string, string>(JSON.parse(named));
    // Most texts hold none.
    if (now.size === 0 || !isThere(editor)) {
      return;
    }
    editor.commands.command(({ tr, state }) => {
      state.doc.descendants((node, at) => {
        const text =
          node.type.name === "variable"
            ? now.get(node.attrs.key)
            : node.type.name === "reference"
              ? now.get(wordsKey(node.attrs as InlineNode))
              : undefined;
        if (text !== undefined && text !== node.attrs.text) {
          tr.setNodeAttribute(at, "text", text);
        }
      });
      tr.setMeta("addToHistory", false).setMeta("preventUpdate", true);
      return true;
    });
  }, [named, editor]);
  useEffect(() => {
    if (asked > 0 && isThere(editor)) {
      editor.commands.focus(caret === undefined ? "end" : Math.min(caret + 1, editor.state.doc.content.size));
    }
  }, [asked, caret, editor]);

  useEffect(() => {
    if (isThere(editor)) {
      editor.view.dom.setAttribute("aria-invalid", broken ? "true" : "false");
    }
  }, [broken, editor]);

  const tool = (name: string, shown: React.ReactNode, on: boolean, act: () => void) => (
    <button
      type="button"
      className={`plain ${classes.tool}`}
      aria-label={name}
      title={name}
      aria-pressed={on}
      onMouseDown={(e) => e.preventDefault()}
      onClick={act}
    >
      {shown}
    </button>
  );
  return (
    <div className={classes.field}>
      <div className={classes.label}>
        <span id={`${id}-label`}>{label}</span>
        <span className={classes.figure} data-broken={broken}>
          {note}
        </span>
      </div>
      <div className={classes.proseBox} data-broken={broken}>
        {placeholder && active.empty && (
          <span className={classes.hint} aria-hidden="true">
            {placeholder}
          </span>
        )}
        <EditorContent editor={editor} data-editor />
      </div>
      <div className={classes.tools} role="toolbar" aria-label={`${label}, emphasis`}>
        {tool("Bold", <b>B</b>, active.bold, () => editor.chain().focus().toggleBold().run())}
        {tool("Italic", <i>I</i>, active.italic, () => editor.chain().focus().toggleItalic().run())}
        {!oneParagraph &&
          tool("Bulleted list", <span data-drawn="•–" />, active.bullets, () => editor.chain().focus().toggleBulletList().run())}
        {!oneParagraph &&
          tool("Numbered list", <span data-drawn="1–" />, active.numbers, () => editor.chain().focus().toggleOrderedList().run())}
        <LinkButton editor={editor} active={active.link} />
        {can && (
          <NodeMenu
            sort="words"
            opened={inserting}
            onClose={() => {
              setInserting(false);
              editor.view.focus();
            }}
            onChoose={(node) => {
              setInserting(false);
              putReference(editor, node, shown(node) ?? "");
            }}
          >
            <button
              type="button"
              className={`plain underlined ${classes.tool}`}
              title="Put a snippet or a field of the reader here"
              aria-label="Insert a snippet or field"
              aria-expanded={inserting}
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => setInserting(true)}
            >
              Insert <span aria-hidden="true">/</span>
            </button>
          </NodeMenu>
        )}
        {onSplit && (
          <button
            type="button"
            className={`plain underlined ${classes.tool}`}
            title="What comes after the caret becomes a text of its own"
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => {
              const at = editor.state.selection.from;
              const part = (from: number, to: number) => fromEditor(editor.state.doc.cut(from, to).toJSON());
              onSplit(part(0, at), part(at, editor.state.doc.content.size));
            }}
          >
            Split here
          </button>
        )}
      </div>
    </div>
  );
}
