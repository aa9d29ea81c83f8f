import { useEffect, useRef, useState } from "react";
import { asScheme } from "../../shared/scheme";
import classes from "./SpecimenSheet.module.css";
import { useSpecimenPieces } from "./WhyPanel";

interface Props {
  html: string;
  kept: string;
  piece?: string;
  onPiece: (piece: string | undefined) => void;
}

/** Every style in use, compiled like any email: light or dark, desktop or phone. Click a piece to ask why it looks so. */
export function SpecimenSheet({ html, kept, piece, onPiece }: Props) {
  const [dark, setDark] = useState(false);
  const [phone, setPhone] = useState(false);
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(700);
  const [ready, setReady] = useState(false);
  const pieces = useSpecimenPieces();
  const ask = useRef(onPiece);
  ask.current = onPiece;

  // The frame's page is patched rather than loaded anew, so that dragging a colour does not flicker.
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (page && ready) {
      patch(page, asScheme(html, dark));
      mark(page, piece);
      setHeight(Math.ceil(page.body.getBoundingClientRect().height) + 1);
    }
  }, [html, dark, ready, piece]);
  // A phone's columns stand lower; the frame grows with them.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the height depends on the width that "phone" sets.
  useEffect(() => {
    const body = frame.current?.contentDocument?.body;
    if (body) {
      setHeight(Math.ceil(body.getBoundingClientRect().height) + 1);
    }
  }, [phone]);
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
        <select
          className={classes.why}
          aria-label="Why this value?"
          value={piece ?? ""}
          onChange={(e) => onPiece(e.currentTarget.value || undefined)}
        >
          <option value="">Why this value?</option>
          {pieces.data?.map((p) => (
            <option key={p.piece} value={p.piece}>
              {p.label}
            </option>
          ))}
        </select>
        <span className={classes.kept}>kept {kept}</span>
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

const patched = new WeakMap<Document, { head: string; rows: string[] }>();

// Only rows whose HTML changed are made anew: a colour touches few of them.
function patch(page: Document, html: string) {
  const made = new DOMParser().parseFromString(html, "text/html");
  const rows = Array.from(made.querySelectorAll("[data-row]"));
  const now = { head: made.head.innerHTML + made.body.getAttribute("style"), rows: rows.map((r) => r.outerHTML) };
  const known = patched.get(page);
  patched.set(page, now);
  if (known?.head !== now.head) {
    page.head.replaceChildren(...Array.from(made.head.childNodes, (node) => page.importNode(node, true)));
    for (const { name, value } of Array.from(made.body.attributes)) {
      page.body.setAttribute(name, value);
    }
  }
  if (!known || known.rows.length !== rows.length) {
    page.body.replaceChildren(...Array.from(made.body.childNodes, (node) => page.importNode(node, true)));
    return;
  }
  const standing = Array.from(page.querySelectorAll("[data-row]"));
  for (const [i, row] of rows.entries()) {
    if (known.rows[i] !== now.rows[i]) {
      standing[i]?.replaceWith(page.importNode(row, true));
    }
  }
}

function mark(page: Document, piece?: string) {
  page.getElementById("asked")?.remove();
  const style = page.createElement("style");
  style.id = "asked";
  style.textContent = `[data-piece]{cursor:help}${piece ? `[data-piece="${CSS.escape(piece)}"]{outline:2px solid #3A5A7D;outline-offset:-2px}` : ""}`;
  page.head.append(style);
}
