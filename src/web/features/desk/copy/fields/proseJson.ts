import type { JSONContent } from "@tiptap/core";
import type { RichText } from "../../../../api/types";
import { type InlineNode, nodesIn, writeNode } from "../../../../shared/nodes";

type Paragraph = NonNullable<RichText["paragraphs"]>[number];
type Run = NonNullable<Paragraph["runs"]>[number];

/**
 * The project's rich text as the editor's document. Nothing is lost on the way there and back.
 *
 * @param words By which brand variables, snippets and fields are shown.
 */
export function toEditor(text: RichText, words: ReadonlyMap<string, string> = new Map()): JSONContent {
  const content: JSONContent[] = [];
  for (const paragraph of text.paragraphs ?? []) {
    const inner = { type: "paragraph", content: (paragraph.runs ?? []).flatMap((run) => runToNodes(run, words)) };
    const list = paragraph.list === "bullet" ? "bulletList" : paragraph.list === "number" ? "orderedList" : undefined;
    if (!list) {
      content.push(inner);
      continue;
    }
    const last = content.at(-1);
    const item = { type: "listItem", content: [inner] };
    if (last?.type === list) {
      last.content?.push(item);
    } else {
      content.push({ type: list, content: [item] });
    }
  }
  return { type: "doc", content: content.length > 0 ? content : [{ type: "paragraph" }] };
}

export function fromEditor(doc: JSONContent): RichText {
  const paragraphs: Paragraph[] = [];
  const walk = (node: JSONContent, list: Paragraph["list"]) => {
    if (node.type === "paragraph") {
      paragraphs.push({ list, runs: runsOf(node.content ?? []) });
    } else {
      const inside = node.type === "bulletList" ? "bullet" : node.type === "orderedList" ? "number" : list;
      for (const child of node.content ?? []) {
        walk(child, inside);
      }
    }
  };
  walk(doc, "none");
  return { paragraphs };
}

function runToNodes(run: Run, words: ReadonlyMap<string, string>): JSONContent[] {
  const marks: JSONContent["marks"] = [];
  if (run.bold) marks.push({ type: "bold" });
  if (run.italic) marks.push({ type: "italic" });
  if (run.href) marks.push({ type: "link", attrs: { href: run.href } });
  if (run.variable) {
    return [{ type: "variable", attrs: { key: run.variable, text: words.get(run.variable) ?? "" }, marks }];
  }
  return nodesIn(run.text ?? "").flatMap((part) =>
    typeof part === "string"
      ? part
          .split("\n")
          .flatMap((line, index) => [
            ...(index > 0 ? [{ type: "hardBreak", marks }] : []),
            ...(line ? [{ type: "text", text: line, marks }] : []),
          ])
      : [{ type: "reference", attrs: { ...part, text: words.get(wordsKey(part)) ?? "" }, marks }],
  );
}

/** By what the words of a snippet or field stand among those of brand variables. */
export const wordsKey = ({ kind, key }: InlineNode) => `${kind}:${key}`;

function runsOf(nodes: JSONContent[]): Run[] {
  const runs: Run[] = [];
  for (const node of nodes) {
    const marked = (type: string) => node.marks?.find((m) => m.type === type);
    const run: Run = {
      text: textOf(node),
      bold: marked("bold") !== undefined,
      italic: marked("italic") !== undefined,
    };
    const href = marked("link")?.attrs?.href;
    if (href) run.href = href;
    if (node.type === "variable") run.variable = node.attrs?.key;
    const last = runs.at(-1);
    if (last && !last.variable && !run.variable && last.bold === run.bold && last.italic === run.italic && last.href === run.href) {
      last.text = `${last.text}${run.text}`;
    } else {
      runs.push(run);
    }
  }
  return runs;
}

function textOf(node: JSONContent): string {
  switch (node.type) {
    case "hardBreak":
      return "\n";
    case "variable":
      return "";
    case "reference":
      return writeNode({ kind: node.attrs?.kind, key: node.attrs?.key });
    default:
      return node.text ?? "";
  }
}

/** The words that brand variables in a text come to, by key. */
export const wordsOfVariables = (resolved?: RichText): Map<string, string> =>
  new Map(
    (resolved?.paragraphs ?? []).flatMap((p) => (p.runs ?? []).flatMap((r) => (r.variable ? [[r.variable, r.text ?? ""] as const] : []))),
  );
