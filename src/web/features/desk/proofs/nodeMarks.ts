import type { FieldValue } from "../../../api/types";
import { highlight, rangesWithin } from "../../../shared/highlight";
import { type InlineNode, nodesIn } from "../../../shared/nodes";

/** The snippets and fields in a value, each once. */
export function nodesOfValue(value: FieldValue): InlineNode[] {
  const texts =
    value.kind === "words"
      ? [value.text]
      : value.kind === "prose"
        ? (value.text.paragraphs ?? []).flatMap((p) => p.runs ?? []).map((r) => r.text ?? "")
        : [];
  const found = texts.flatMap(nodesIn).filter((part): part is InlineNode => typeof part === "object");
  return [...new Map(found.map((node) => [`${node.kind}:${node.key}`, node])).values()];
}

/** Marks what snippets and fields say in a block; where marking is not known nothing is marked. */
export function markNodes(page: Document, piece: string | undefined, words: string[]) {
  const elements = piece ? [...page.querySelectorAll(`[data-piece="${CSS.escape(piece)}"]`)] : [];
  highlight(
    page,
    "nodes",
    words.filter(Boolean).flatMap((sought) => elements.flatMap((element) => [...rangesWithin(page, element, sought, "")])),
  );
}
