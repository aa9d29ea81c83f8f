import { type Editor, Extension, Node } from "@tiptap/core";
import type { InlineNode } from "../../shared/nodes";

/** A snippet or field inside text: shown by what it says, kept by its kind and key. */
export const InlineReference = Node.create({
  name: "reference",
  group: "inline",
  inline: true,
  atom: true,
  marks: "_",
  addAttributes: () => ({ kind: { default: "" }, key: { default: "" }, text: { default: "" } }),
  parseHTML: () => [
    {
      tag: "span[data-node]",
      getAttrs: (element) => {
        const [kind, key] = (element.getAttribute("data-node") ?? "").split(":");
        return kind === "snippet" || kind === "field" ? { kind, key, text: element.textContent } : false;
      },
    },
  ],
  renderHTML: ({ node }) => ["span", { "data-node": `${node.attrs.kind}:${node.attrs.key}` }, node.attrs.text || `[${node.attrs.key}]`],
});

/** "/" at the beginning of a word asks for what can be put in. */
export const SlashAsks = (ask: () => void) =>
  Extension.create({
    name: "slashAsks",
    addKeyboardShortcuts() {
      return {
        "/": ({ editor }) => {
          const { $from, empty } = editor.state.selection;
          const before = $from.parent.textBetween(Math.max(0, $from.parentOffset - 1), $from.parentOffset, undefined, "x");
          if (!empty || (before && !/\s/.test(before))) {
            return false;
          }
          ask();
          return true;
        },
      };
    },
  });

/**
 * Puts a snippet or field where the caret is. The focus comes back in the same turn: the editor's own command waits for the next frame,
 * and a letter typed before it would be lost.
 * @param text What it is shown by.
 */
export function putReference(editor: Editor, node: InlineNode, text: string) {
  const { storedMarks, selection } = editor.state;
  const marks = (storedMarks ?? selection.$from.marks()).map((mark) => mark.toJSON());
  editor.view.focus();
  editor.commands.insertContent({ type: "reference", attrs: { ...node, text }, marks });
}
