import type { DeskRow } from "../../../api/types";
import { asScheme } from "../../../shared/scheme";
import { blocksOf, type Desk, rowIds } from "../DeskStore";

export interface ProofLook {
  dark: boolean;
  picturesOff: boolean;
  /** Pieces that this screen does not show are shown all the same, as what they are. */
  hiddenShown: boolean;
  chosen: string;
  piece?: string;
  /** The chosen row holds nothing yet: it is given room to begin in. */
  empty?: boolean;
  /** What some readers see only is left out. */
  everyone?: boolean;
}

interface Patched {
  opening?: string | null;
  rows: Map<string, string>;
  /** What it was last brought to. */
  to?: [Desk, ReadonlyMap<string, DeskRow>, ProofLook];
}

const patched = new WeakMap<Document, Patched>();

/** Brings a proof's document to what the desk says, touching only rows whose HTML changed. Rows are laid out and painted each by itself. */
export function patchProof(page: Document, desk: Desk, rows: ReadonlyMap<string, DeskRow>, look: ProofLook) {
  const known = patched.get(page) ?? { rows: new Map<string, string>() };
  patched.set(page, known);
  const former = known.to?.[2];
  if (known.to?.[0] === desk && known.to[1] === rows && former === look) {
    return;
  }
  known.to = [desk, rows, look];
  const opening = asScheme(desk.proof.opening ?? "", look.dark);
  if (known.opening !== opening) {
    open(page, opening);
    known.opening = opening;
    known.rows.clear();
  }
  const body = page.querySelector("[role=article]");
  if (!body) {
    return;
  }
  const order = rowIds(desk);
  const standing = new Map(Array.from(body.children, (element) => [element.getAttribute("data-row") ?? "", element]));
  let before: Element | null = null;
  for (const id of order) {
    const html = rows.get(id)?.html;
    if (html === undefined) {
      continue;
    }
    let element = standing.get(id);
    if (!element || known.rows.get(id) !== html) {
      const made = parse(page, html);
      element?.replaceWith(made);
      element = made;
      known.rows.set(id, html);
    }
    const place: Element | null = before ? before.nextElementSibling : body.firstElementChild;
    if (place !== element) {
      body.insertBefore(element, place);
    }
    standing.delete(id);
    before = element;
  }
  for (const [id, element] of standing) {
    element.remove();
    known.rows.delete(id);
  }
  dress(page, look, former);
  dressConditional(page, rows, look.everyone === true);
}

/** What only some readers see has a mark in the margin, or is left out. */
function dressConditional(page: Document, rows: ReadonlyMap<string, DeskRow>, everyone: boolean) {
  const some = [...rows].flatMap(([id, row]) => [
    ...(row.condition ? [`[data-row="${CSS.escape(id)}"]`] : []),
    ...blocksOf(row).flatMap((b) => (b.condition ? [`[data-row="${CSS.escape(id)}"] [data-piece="${CSS.escape(b.id)}"]`] : [])),
  ]);
  const margin = `${some.join()}{position:relative}${some.map((s) => `${s}::after`).join()}{content:"";position:absolute;inset:0 auto 0 0;width:7px;background:#7A5510;pointer-events:none}`;
  const css = some.length === 0 ? "" : everyone ? `${some.join()}{display:none!important}` : margin;
  let style = page.getElementById("desk-readers");
  if (!style) {
    style = page.createElement("style");
    style.id = "desk-readers";
    page.head.append(style);
  }
  if (style.textContent !== css) {
    style.textContent = css;
  }
}

// Everything up to the rows: styles, title and body attributes come from the compiled email itself.
function open(page: Document, opening: string) {
  const made = new DOMParser().parseFromString(`${opening}</div></body></html>`, "text/html");
  page.head.replaceChildren(...Array.from(made.head.childNodes, (node) => page.importNode(node, true)));
  page.body.replaceChildren(...Array.from(made.body.childNodes, (node) => page.importNode(node, true)));
  for (const { name, value } of Array.from(made.body.attributes)) {
    page.body.setAttribute(name, value);
  }
  page.documentElement.lang = made.documentElement.lang;
}

function parse(page: Document, html: string): Element {
  const template = page.createElement("template");
  template.innerHTML = html;
  return template.content.firstElementChild ?? page.createElement("div");
}

// Hatched, so that nobody takes them for part of what readers of this screen see.
const hatch =
  "opacity:.75!important;background-image:repeating-linear-gradient(135deg,#A9781C55 0 2px,transparent 2px 8px)!important;max-height:none!important";
const hiddenPieces = `table.do,table.po{display:table!important;${hatch}}tr.do,tr.pr{display:table-row!important;${hatch}}`;

/** What a snippet or field of the chosen field says. */
const nodes = "::highlight(nodes){background-color:#ECE0C6;color:#1E2430}";

function dress(page: Document, look: ProofLook, former?: ProofLook) {
  let style = page.getElementById("desk-dress");
  if (!style) {
    style = page.createElement("style");
    style.id = "desk-dress";
    page.head.append(style);
  }
  const row = CSS.escape(look.chosen);
  const piece = look.piece ? ` [data-piece="${CSS.escape(look.piece)}"]` : "";
  const css = `html,body{overflow:hidden}[data-row]{cursor:pointer;contain:layout paint style}[data-row="${row}"]${piece}{outline:3px solid #3A5A7D;outline-offset:-3px}${look.empty ? `[data-row="${row}"]{min-height:64px;height:64px}` : ""}${look.hiddenShown ? hiddenPieces : ""}${nodes}`;
  if (style.textContent !== css) {
    style.textContent = css;
  }
  for (const picture of look.picturesOff || former?.picturesOff ? page.querySelectorAll("img") : []) {
    const held = picture.getAttribute("data-src");
    if (look.picturesOff && !held) {
      picture.setAttribute("data-src", picture.getAttribute("src") ?? "");
      picture.removeAttribute("src");
    } else if (!look.picturesOff && held) {
      picture.setAttribute("src", held);
      picture.removeAttribute("data-src");
    }
  }
}

/** How many characters of a piece stand before a point of the page. */
export function caretAt(page: Document, piece: Element, x: number, y: number): number | undefined {
  const range = page.caretRangeFromPoint?.(x, y);
  if (!range || !piece.contains(range.startContainer)) {
    return undefined;
  }
  const before = page.createRange();
  before.setStart(piece, 0);
  before.setEnd(range.startContainer, range.startOffset);
  return before.toString().length;
}
