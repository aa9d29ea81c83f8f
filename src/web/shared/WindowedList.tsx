import { useElementSize, useMediaQuery, useMergedRef } from "@mantine/hooks";
import { defaultRangeExtractor, type Range, useVirtualizer, useWindowVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useEffect, useRef, useState } from "react";

interface Props<T> {
  items: T[];
  keyOf: (item: T) => string;
  render: (item: T) => ReactNode;
  /** CSS pixels that an item needs at least: as many stand in a line as fit. */
  least: number;
  /** CSS pixels between lines and between items of a line. */
  gap: [number, number];
  /** About how tall a line is; each is measured once it is there. */
  height: number;
  /** Of all there are, also of those that are not asked for yet. */
  count?: number;
  /** Called where the end comes near. */
  onEnd?: () => void;
}

/** A list of so many items is there whole, for whoever looks for a word in the page. */
const short = 100;

/** Lines beyond the edge, so that what comes next is there when it is seen. */
const beyond = 2;

/** A list of which, once it is long, only what is in sight is in the page. */
export function WindowedList<T>({ items, keyOf, render, least, gap: [down, across], height, count, onEnd }: Props<T>) {
  const { ref: size, width } = useElementSize();
  const [list, setList] = useState<HTMLDivElement | null>(null);
  const [focused, setFocused] = useState<number>();
  const columns = Math.max(1, Math.floor((width + across) / (Math.min(least, width || least) + across)));
  const lines = Math.ceil(items.length / columns);
  // On a narrow screen it is the page that is scrolled, else the nearest part of it that can be.
  const narrow = useMediaQuery("(max-width: 720px)") ?? false;
  const scroller = list && !narrow ? scrollerOf(list) : null;
  const offset = scroller ? scroller.scrollTop - scroller.getBoundingClientRect().top : window.scrollY;
  const options = {
    count: width > 0 ? lines : 0,
    estimateSize: () => height,
    gap: down,
    overscan: beyond,
    scrollMargin: list ? list.getBoundingClientRect().top + offset : 0,
    rangeExtractor: (range: Range) => {
      if (items.length <= short) {
        return Array.from({ length: range.count }, (_, i) => i);
      }
      // What has the focus stays, wherever it is scrolled to.
      const seen = defaultRangeExtractor(range);
      return focused === undefined || focused >= range.count || seen.includes(focused) ? seen : [...seen, focused].sort((a, b) => a - b);
    },
  };
  const ofElement = useVirtualizer<Element, Element>({ ...options, enabled: !narrow, getScrollElement: () => scroller });
  const ofPage = useWindowVirtualizer<Element>({ ...options, enabled: narrow });
  const virtualizer = narrow ? ofPage : ofElement;
  const shown = virtualizer.getVirtualItems();
  const near = lines > 0 && (virtualizer.range?.endIndex ?? -1) >= lines - 1 - beyond;
  const end = useRef(onEnd);
  end.current = onEnd;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each time that more has come, the end may still be near.
  useEffect(() => {
    if (near) {
      end.current?.();
    }
  }, [near, items.length]);
  return (
    // A list by its role: lines stand between it and its items.
    <div
      role="list"
      ref={useMergedRef(size, setList)}
      style={{ position: "relative", height: virtualizer.getTotalSize() }}
      onFocus={(e) => setFocused(Number(e.target.closest("[data-index]")?.getAttribute("data-index")))}
      onBlur={(e) => {
        if (!list?.contains(e.relatedTarget)) {
          setFocused(undefined);
        }
      }}
    >
      {shown.map((line) => (
        <div
          key={line.index}
          data-index={line.index}
          ref={virtualizer.measureElement}
          style={{
            position: "absolute",
            top: 0,
            left: 0,
            width: "100%",
            transform: `translateY(${line.start - virtualizer.options.scrollMargin}px)`,
            display: "grid",
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            columnGap: across,
          }}
        >
          {items.slice(line.index * columns, (line.index + 1) * columns).map((item, i) => (
            <div key={keyOf(item)} role="listitem" aria-setsize={count ?? items.length} aria-posinset={line.index * columns + i + 1}>
              {render(item)}
            </div>
          ))}
        </div>
      ))}
    </div>
  );
}

function scrollerOf(element: Element): Element {
  for (let at = element.parentElement; at; at = at.parentElement) {
    if (/auto|scroll/.test(getComputedStyle(at).overflowY)) {
      return at;
    }
  }
  return document.documentElement;
}
