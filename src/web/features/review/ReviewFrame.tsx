import { useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { CommentPlace, ReviewComparison, SeenChange } from "../../api/types";
import { heightOf } from "../../shared/heightOf";
import { clearHighlight, highlight } from "../../shared/highlight";
import { asScheme } from "../../shared/scheme";
import { selectedPlace, wordsAt } from "./frameMarks";
import classes from "./ReviewRoom.module.css";

export interface Pin {
  id: string;
  number: number;
  place: CommentPlace;
}

interface Props {
  html: string;
  side: "before" | "now";
  width: number;
  scale: number;
  dark: boolean;
  label: string;
  comparison: ReviewComparison;
  chosen?: SeenChange;
  pins: Pin[];
  pin?: string;
  onBlock?: (row: string, block: string) => void;
  onWords?: (place: CommentPlace | undefined) => void;
  onPin?: (id: string) => void;
}

const marking =
  "html,body{overflow:hidden}::highlight(changed){background-color:#ECE0C6;color:#1E2430;text-decoration:underline 2px #A9781C}" +
  "::highlight(pinned){background-color:#E6ECF2;color:#1E2430;text-decoration:underline 2px #3A5A7D}" +
  "[data-chosen]{outline:3px solid #A9781C;outline-offset:-3px}";

/** One of two states of an email, with what changed marked in it. The frame runs no script; this page marks words without touching them. */
export function ReviewFrame(props: Props) {
  const { html, side, width, scale, dark, label, comparison, chosen, pins, pin, onBlock, onWords, onPin } = props;
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(600);
  const [drawn, setDrawn] = useState(0);
  const [tops, setTops] = useState<Record<string, number>>({});
  const said = useRef({ onBlock, onWords, comparison });
  said.current = { onBlock, onWords, comparison };

  const measure = useCallback(() => {
    const body = frame.current?.contentDocument?.body;
    if (body) {
      setHeight(heightOf(body));
    }
  }, []);

  useLayoutEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page) {
      return;
    }
    page.open();
    page.write(asScheme(html, dark));
    page.close();
    const style = page.createElement("style");
    style.textContent = marking;
    page.head.append(style);
    page.addEventListener("click", (event) => {
      event.preventDefault();
      const target = event.target as Element;
      const row = target.closest("[data-row]")?.getAttribute("data-row");
      if (row && (page.getSelection()?.isCollapsed ?? true)) {
        said.current.onBlock?.(row, target.closest("[data-piece]")?.getAttribute("data-piece") ?? "");
      }
    });
    page.addEventListener("mouseup", () => said.current.onWords?.(selectedPlace(page, said.current.comparison.fields)));
    page.addEventListener("load", measure, true);
    const resized = new ResizeObserver(measure);
    resized.observe(page.documentElement);
    measure();
    setDrawn((n) => n + 1);
    return () => resized.disconnect();
  }, [html, dark, measure]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn anew is marked anew.
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page) {
      return;
    }
    const wanted = side === "now" ? "added" : "removed";
    highlight(
      page,
      "changed",
      comparison.changes.flatMap((change) =>
        change.marks.flatMap((m, at) =>
          m.mark === wanted && m.text.trim() ? wordsAt(page, change.row, change.block, m.text, wordsBefore(change.marks, at)) : [],
        ),
      ),
    );
    for (const one of page.querySelectorAll("[data-chosen]")) {
      one.removeAttribute("data-chosen");
    }
    const element = chosen?.row ? placeOf(page, chosen.row, chosen.block) : undefined;
    element?.setAttribute("data-chosen", "");
    element?.scrollIntoView({ block: "nearest" });
    return () => clearHighlight(page, "changed");
  }, [comparison, chosen, side, drawn]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: where things stand follows from how high they are.
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page) {
      return;
    }
    const held = pins.find((p) => p.id === pin)?.place;
    const words = comparison.fields.find((f) => f.row === held?.row && f.block === held?.block && f.field === held?.field)?.words;
    const meant = held && words && held.length > 0 ? words.slice(held.start, held.start + held.length) : "";
    highlight(page, "pinned", held && meant ? wordsAt(page, held.row, held.block, meant) : []);
    setTops(
      Object.fromEntries(
        pins.map((p) => [p.id, (placeOf(page, p.place.row, p.place.block)?.getBoundingClientRect().top ?? 0) * scale] as const),
      ),
    );
  }, [pins, pin, comparison, height, drawn, scale]);

  return (
    <figure className={classes.side} style={{ width: width * scale }}>
      <figcaption>{label}</figcaption>
      <div className={classes.sheet} style={{ width: width * scale, height: height * scale }}>
        <iframe
          ref={frame}
          title={`${label}, ${side === "now" ? "as it is now" : "before"}`}
          sandbox="allow-same-origin"
          tabIndex={-1}
          style={{ width, height, transform: `scale(${scale})` }}
        />
        {pins.map((p, at) => (
          <button
            key={p.id}
            type="button"
            className={`plain ${classes.pin}`}
            data-chosen={p.id === pin}
            style={{ top: Math.max(0, (tops[p.id] ?? 0) + overlap(pins, tops, at)) }}
            onClick={() => onPin?.(p.id)}
          >
            <span className="only-heard">Comment </span>
            {p.number}
          </button>
        ))}
      </div>
    </figure>
  );
}

const placeOf = (page: Document, row: string, block: string) =>
  (block && page.querySelector(`[data-row="${CSS.escape(row)}"] [data-piece="${CSS.escape(block)}"]`)) ||
  (row && page.querySelector(`[data-row="${CSS.escape(row)}"]`)) ||
  undefined;

/** What stayed right before a change, as far as it stands in the same line. */
function wordsBefore(marks: SeenChange["marks"], at: number): string {
  const kept = marks.slice(0, at).findLast((m) => m.mark === "kept");
  const text = kept && marks.indexOf(kept) >= at - 2 ? kept.text : "";
  return text.slice(text.lastIndexOf("\n") + 1).slice(-16);
}

/** Pins of one place stand below one another. */
const overlap = (pins: Pin[], tops: Record<string, number>, at: number) =>
  pins.slice(0, at).filter((other) => Math.abs((tops[other.id] ?? 0) - (tops[pins[at]?.id ?? ""] ?? 0)) < 8).length * 26;
