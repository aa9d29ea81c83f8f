import { NativeSelect } from "@mantine/core";
import { memo, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { HouseStyle } from "../../api/types";
import { asScheme } from "../../shared/scheme";
import classes from "./SpecimenSheet.module.css";
import { useSpecimenPieces } from "./WhyPanel";

interface Props {
  sheet: HouseStyle["specimen"];
  kept: string;
  piece?: string;
  /** Pieces that the style or variable which is open changes. */
  touched: string[];
  /** The same from one drawing to the next. */
  onPiece: (piece: string | undefined) => void;
}

/** Every style in use, compiled like any email: light or dark, desktop or phone. Click a piece to ask why it looks so. */
export function SpecimenSheet({ sheet, kept, piece, touched, onPiece }: Props) {
  const [dark, setDark] = useState(false);
  const [phone, setPhone] = useState(false);
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(700);
  const [ready, setReady] = useState(false);
  const ask = useRef(onPiece);
  ask.current = onPiece;

  // The frame's page is patched rather than loaded anew, so that dragging a colour does not flicker; and before the
  // browser paints, so that it changes together with the contrast table.
  useLayoutEffect(() => {
    const page = frame.current?.contentDocument;
    if (page && ready) {
      patch(page, sheet, dark);
      mark(page, piece, touched);
    }
  }, [sheet, dark, ready, piece, touched]);
  // Whoever opens a style sees where it shows.
  const first = touched[0];
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (ready && first && !piece) {
      page?.querySelector(`[data-piece="${CSS.escape(first)}"]`)?.scrollIntoView({ block: "nearest" });
    }
  }, [ready, first, piece]);
  // The frame grows with what lies in it, after the browser laid it out anyway.
  useEffect(() => {
    const body = frame.current?.contentDocument?.body;
    if (!body || !ready) {
      return;
    }
    const sizes = new ResizeObserver(() => setHeight(Math.ceil(body.getBoundingClientRect().height) + 1));
    sizes.observe(body);
    return () => sizes.disconnect();
  }, [ready]);
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page || !ready) {
      return;
    }
    const listen = (event: MouseEvent) => {
      event.preventDefault();
      ask.current((event.target as Element).closest("[data-piece]")?.getAttribute("data-piece") ?? undefined);
    };
    page.addEventListener("click", listen);
    return () => page.removeEventListener("click", listen);
  }, [ready]);

  const toggle = (name: string, on: boolean, act: () => void) => (
    <button key={name} type="button" className={`plain ${classes.toggle}`} aria-pressed={on} onClick={act}>
      {name}
    </button>
  );
  return (
    <section className={classes.table} aria-label="Specimen sheet">
      <p className={classes.line}>
        <strong>Specimen</strong>
        {toggle("Light", !dark, () => setDark(false))}
        {toggle("Dark", dark, () => setDark(true))}
        {toggle("Desktop", !phone, () => setPhone(false))}
        {toggle("Phone", phone, () => setPhone(true))}
        <PieceChoice piece={piece} onPiece={onPiece} />
        <span className={classes.kept}>Saved {kept}</span>
      </p>
      <div className={classes.sheet} style={{ width: phone ? 375 : "100%", maxWidth: phone ? 375 : 640 }}>
        <iframe
          ref={frame}
          title="Specimen"
          onLoad={() => setReady(true)}
          sandbox="allow-same-origin"
          srcDoc="<!doctype html><html><head></head><body></body></html>"
          tabIndex={-1}
          style={{ height }}
        />
      </div>
    </section>
  );
}

// Costly to draw, and the same with each answer while a colour is dragged.
const PieceChoice = memo(function PieceChoice({ piece, onPiece }: Pick<Props, "piece" | "onPiece">) {
  const pieces = useSpecimenPieces();
  return (
    <NativeSelect
      className={classes.why}
      aria-label="Why this value?"
      value={piece ?? ""}
      data={[{ value: "", label: "Why this value?" }, ...(pieces.data ?? []).map((p) => ({ value: p.piece, label: p.label }))]}
      onChange={(e) => onPiece(e.currentTarget.value || undefined)}
    />
  );
});

interface Patched {
  opening: Opening;
  rows: string[];
}

/** A page's opening in two: its style sheet, and what is around it. */
interface Opening {
  sheet: string;
  around: string;
}

const patched = new WeakMap<Document, Patched>();

function parted(opening: string): Opening {
  const from = opening.indexOf("<style>") + "<style>".length;
  const to = opening.indexOf("</style>", from);
  return { sheet: opening.slice(from, to), around: opening.slice(0, from) + opening.slice(to) };
}

// Only rows whose HTML changed are made anew: a colour touches few of them. Of the opening it touches the style sheet.
function patch(page: Document, sheet: HouseStyle["specimen"], dark: boolean) {
  const opening = asScheme(sheet.opening ?? "", dark);
  const now = { opening: parted(opening), rows: sheet.rows.map((row) => row ?? "") };
  let known = patched.get(page);
  patched.set(page, now);
  const style = page.head.querySelector("style");
  if (style && known?.opening.around === now.opening.around) {
    if (known.opening.sheet !== now.opening.sheet) {
      style.textContent = now.opening.sheet;
    }
  } else {
    const made = new DOMParser().parseFromString(opening, "text/html");
    page.head.replaceChildren(...Array.from(made.head.childNodes, (node) => page.importNode(node, true)));
    for (const { name, value } of Array.from(made.body.attributes)) {
      page.body.setAttribute(name, value);
    }
  }
  if (known?.rows.length !== now.rows.length) {
    page.body.replaceChildren(...now.rows.map(() => page.createElement("div")));
    known = undefined;
  }
  const standing = Array.from(page.body.children);
  for (const [i, html] of now.rows.entries()) {
    if (known?.rows[i] !== html) {
      const made = page.createElement("template");
      made.innerHTML = html;
      standing[i]?.replaceWith(made.content);
    }
  }
}

// Only where it says something else: a colour that is dragged changes neither what is asked about nor what it touches.
function mark(page: Document, piece: string | undefined, touched: string[]) {
  const selector = (one: string) => `[data-piece="${CSS.escape(one)}"]`;
  const gold = touched.length > 0 ? `${touched.map(selector).join()}{outline:2px dashed #A9781C;outline-offset:-2px}` : "";
  const slate = piece ? `${selector(piece)}{outline:2px solid #3A5A7D;outline-offset:-2px}` : "";
  const css = `[data-piece]{cursor:help}${gold}${slate}`;
  let style = page.getElementById("asked");
  if (!style) {
    style = page.createElement("style");
    style.id = "asked";
    page.head.append(style);
  }
  if (style.textContent !== css) {
    style.textContent = css;
  }
}
