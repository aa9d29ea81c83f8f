import type { FieldValue } from "../../../api/types";
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

/** Marks words in a proof without touching what stands in it (CSS Custom Highlight API 1); where that is not known nothing is marked. */
export function markNodes(page: Document, piece: string | undefined, words: string[]) {
  const view = page.defaultView as (Window & typeof globalThis) | null;
  if (!view?.Highlight || !view.CSS?.highlights) {
    return;
  }
  const ranges = piece ? words.filter(Boolean).flatMap((sought) => [...rangesOf(page, piece, sought)]) : [];
  if (ranges.length > 0) {
    view.CSS.highlights.set("nodes", new view.Highlight(...ranges));
  } else {
    view.CSS.highlights.delete("nodes");
  }
}

// The words may go through several elements: a snippet has emphasis of its own.
function* rangesOf(page: Document, piece: string, sought: string): Generator<Range> {
  for (const element of page.querySelectorAll(`[data-piece="${CSS.escape(piece)}"]`)) {
    const walker = page.createTreeWalker(element, NodeFilter.SHOW_TEXT);
    const texts: { text: Text; start: number }[] = [];
    let whole = "";
    for (let text = walker.nextNode() as Text | null; text; text = walker.nextNode() as Text | null) {
      texts.push({ text, start: whole.length });
      whole += text.data;
    }
    const placeOf = (offset: number) => {
      const at = texts.findLast(({ start }) => start <= offset);
      return at && ([at.text, Math.min(offset - at.start, at.text.length)] as const);
    };
    for (let at = whole.indexOf(sought); at >= 0; at = whole.indexOf(sought, at + sought.length)) {
      const [from, to] = [placeOf(at), placeOf(at + sought.length - 1)];
      if (from && to) {
        const range = page.createRange();
        range.setStart(...from);
        range.setEnd(to[0], to[1] + 1);
        yield range;
      }
    }
  }
}
