import { Document } from "@tiptap/extension-document";
import { Paragraph } from "@tiptap/extension-paragraph";
import { Text } from "@tiptap/extension-text";
import { type Editor, EditorContent, useEditor } from "@tiptap/react";
import { useEffect, useMemo, useRef } from "react";
import { type InlineNode, nodesIn, writeNode } from "../../../../shared/nodes";
import { InlineReference, putReference, SlashAsks } from "../../../nodes/nodeExtension";
import { useNodeOffers } from "../../../nodes/nodeOffers";
import classes from "./fields.module.css";
import { notesOf } from "./notesOf";

export interface EditedLine {
  focus: () => void;
  put: (node: InlineNode) => void;
}

interface Props {
  id: string;
  value: string;
  onChange: (value: string) => void;
  onAsk: () => void;
  /** The line, once it stands, for whoever puts something in; undefined when it goes. */
  onReady: (line: EditedLine | undefined) => void;
  lang?: string;
  asked: number;
  placeholder?: string;
  /** Where the caret stands, counted in characters and nodes, when it takes over from a line that was typed in. */
  caretTaken?: number;
  broken?: boolean;
}

/** One line of words in which snippets and fields stand. */
export default function LineEditor({ id, value, onChange, onAsk, onReady, lang, asked, caretTaken, placeholder, broken }: Props) {
  const { shown, find } = useNodeOffers();
  const written = useRef(value);
  const latest = useRef({ onChange, onAsk, onReady, find });
  latest.current = { onChange, onAsk, onReady, find };
  const extensions = useMemo(
    () => [Document.extend({ content: "paragraph" }), Paragraph, Text, InlineReference, SlashAsks(() => latest.current.onAsk())],
    [],
  );
  const content = (text: string) => ({
    type: "doc",
    content: [
      {
        type: "paragraph",
        content: nodesIn(text).map((part) =>
          typeof part === "string" ? { type: "text", text: part } : { type: "reference", attrs: { ...part, text: shown(part) ?? "" } },
        ),
      },
    ],
  });
  const editor = useEditor({
    extensions,
    content: content(value),
    editorProps: {
      attributes: {
        id,
        class: classes.line ?? "",
        role: "textbox",
        "aria-labelledby": `${id}-label`,
        "aria-describedby": notesOf(id),
        lang: lang ?? "",
        spellcheck: "true",
      },
      // What is pasted stands in the line.
      transformPastedText: (text) => text.replace(/[\r\n]+/g, " "),
      handleKeyDown: (_, event) => event.key === "Enter",
    },
    onUpdate: ({ editor: changed }) => {
      written.current = textOf(changed);
      latest.current.onChange(written.current);
    },
  });
  useEffect(() => {
    if (!editor || editor.isDestroyed) {
      return;
    }
    latest.current.onReady({
      focus: () => editor.view.focus(),
      put: (node) => {
        const offer = latest.current.find(node);
        putReference(editor, node, offer?.words || offer?.name || "");
      },
    });
    return () => latest.current.onReady(undefined);
  }, [editor]);
  // Someone else's words, or what the nodes say changed.
  const said = nodesIn(value)
    .map((part) => (typeof part === "string" ? part : `${writeNode(part)}${shown(part) ?? ""}`))
    .join("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the nodes say is in it.
  useEffect(() => {
    if (!editor || editor.isDestroyed) {
      return;
    }
    if (value !== written.current) {
      written.current = value;
      editor.commands.setContent(content(value), { emitUpdate: false });
      return;
    }
    editor.commands.command(({ tr, state }) => {
      state.doc.descendants((node, at) => {
        const text = node.type.name === "reference" ? shown({ kind: node.attrs.kind, key: node.attrs.key }) : undefined;
        if (text !== undefined && text !== node.attrs.text) {
          tr.setNodeAttribute(at, "text", text);
        }
      });
      tr.setMeta("addToHistory", false).setMeta("preventUpdate", true);
      return true;
    });
  }, [said, value, editor]);
  useEffect(() => {
    if (asked > 0 && editor && !editor.isDestroyed) {
      editor.commands.focus("end");
    }
  }, [asked, editor]);
  useEffect(() => {
    if (caretTaken !== undefined && editor && !editor.isDestroyed) {
      editor.commands.setTextSelection(caretTaken + 1);
      // The editor's own command waits for the next frame: a letter typed before would be lost.
      editor.view.focus();
    }
  }, [caretTaken, editor]);
  useEffect(() => {
    if (editor && !editor.isDestroyed) {
      editor.view.dom.setAttribute("aria-invalid", broken ? "true" : "false");
      editor.view.dom.setAttribute("data-broken", broken ? "true" : "false");
    }
  }, [broken, editor]);
  return (
    <div className={classes.lineBox}>
      {placeholder && value === "" && (
        <span className={classes.hint} aria-hidden="true">
          {placeholder}
        </span>
      )}
      <EditorContent editor={editor} className={classes.lineEditor} data-editor />
    </div>
  );
}

function textOf(editor: Editor): string {
  let text = "";
  editor.state.doc.descendants((node) => {
    if (node.isText) {
      text += node.text ?? "";
    } else if (node.type.name === "reference") {
      text += writeNode({ kind: node.attrs.kind, key: node.attrs.key });
    }
  });
  return text;
}
