import { Extension, Node } from "@tiptap/core";

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
