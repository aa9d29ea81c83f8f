import type { CommentPlace, ReviewComparison } from "../../api/types";
import { rangesWithin, type View } from "../../shared/highlight";

/**
 * Where words stand within a block, or a row; they may go through several elements.
 * @param before What stands right before them: of the same words written twice it tells which are meant.
 */
export function wordsAt(page: Document, row: string, block: string, sought: string, before = ""): Range[] {
  const selector = `[data-row="${CSS.escape(row)}"]${block ? ` [data-piece="${CSS.escape(block)}"]` : ""}`;
  const within = (context: string) =>
    [...page.querySelectorAll(selector)].flatMap((element) => [...rangesWithin(page, element, sought.trim(), context)]);
  const meant = row && before ? within(before) : [];
  return row && meant.length === 0 ? within("") : meant;
}

/** What is selected in a frame, as a place in a field. Undefined: nothing is, or it is not the words of one field. */
export function selectedPlace(page: Document, fields: ReviewComparison["fields"]): CommentPlace | undefined {
  const selection = page.getSelection();
  const words = selection?.toString().trim() ?? "";
  if (!selection || selection.isCollapsed || !words) {
    return undefined;
  }
  const element = (
    selection.anchorNode instanceof (page.defaultView as View).Element ? selection.anchorNode : selection.anchorNode?.parentElement
  ) as Element | null | undefined;
  const piece = element?.closest("[data-piece]");
  const row = element?.closest("[data-row]")?.getAttribute("data-row");
  const block = piece?.getAttribute("data-piece");
  if (!piece || !row || !block) {
    return undefined;
  }
  // Of the same words written twice, the one that is meant.
  const before = page.createRange();
  const range = selection.getRangeAt(0);
  before.setStart(piece, 0);
  before.setEnd(range.startContainer, range.startOffset);
  let which = before.toString().split(words).length - 1;
  for (const field of fields.filter((f) => f.row === row && f.block === block)) {
    for (let at = field.words.indexOf(words); at >= 0; at = field.words.indexOf(words, at + words.length)) {
      if (which-- === 0) {
        return { row, block, field: field.field, start: at, length: words.length };
      }
    }
  }
  return { row, block, field: "", start: 0, length: 0 };
}
