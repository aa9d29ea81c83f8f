export type View = Window & typeof globalThis;

/** Marks words in a frame without touching what stands in it (CSS Custom Highlight API 1). */
export function highlight(page: Document, name: string, ranges: Range[]) {
  const view = page.defaultView as View | null;
  if (!view?.Highlight || !view.CSS?.highlights) {
    return;
  }
  if (ranges.length > 0) {
    view.CSS.highlights.set(name, new view.Highlight(...ranges));
  } else {
    view.CSS.highlights.delete(name);
  }
}

export const clearHighlight = (page: Document, name: string) => {
  (page.defaultView as View | null)?.CSS?.highlights?.delete(name);
};

/** Where words stand in an element, right after others; they may go through several elements. */
export function* rangesWithin(page: Document, element: Element, sought: string, before: string): Generator<Range> {
  const { whole, placeOf } = textOf(page, element);
  const all = before + sought;
  for (let found = whole.indexOf(all); sought && found >= 0; found = whole.indexOf(all, found + all.length)) {
    const at = found + before.length;
    const [from, to] = [placeOf(at), placeOf(at + sought.length - 1)];
    if (from && to) {
      const range = page.createRange();
      range.setStart(...from);
      range.setEnd(to[0], to[1] + 1);
      yield range;
    }
  }
}

function textOf(page: Document, element: Element) {
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
  return { whole, placeOf };
}
