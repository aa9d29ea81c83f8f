// @vitest-environment jsdom
import fc from "fast-check";
import { expect, test, vi } from "vitest";
import type { DeskRow } from "../../../api/types";
import type { Desk } from "../DeskStore";
import { aProof, aRow, deskOf } from "../testDesk";
import { type ProofLook, patchProof } from "./patchProof";

// The part of CSSOM that jsdom has not got; ids of tests need no escaping.
vi.stubGlobal("CSS", { escape: (text: string) => text });

const plain: ProofLook = { dark: false, picturesOff: false, hiddenShown: false, chosen: "" };
const page = () => document.implementation.createHTMLDocument();
const bring = (to: Document, rows: DeskRow[], look = plain, opening?: string) =>
  patchProof(
    to,
    { ...(deskOf(1, ...rows) as unknown as Desk), ...(opening ? { proof: aProof(opening) } : {}) },
    new Map(rows.map((row) => [row.id, row])),
    look,
  );
const rowsOf = (of: Document) => Array.from(of.querySelectorAll("[role=article] > *"));
const saying = (id: string, words: string) => aRow(id, { html: `<table data-row="${id}"><tr><td>${words}</td></tr></table>` });

test("a proof holds the head, the body's class and the rows of the email as it was compiled", () => {
  const proof = page();
  bring(proof, [saying("a", "One"), saying("b", "Two")]);
  expect(proof.title).toBe("An email");
  expect(proof.documentElement.lang).toBe("en");
  expect(proof.body.className).toBe("pg");
  expect(rowsOf(proof).map((row) => row.textContent)).toEqual(["One", "Two"]);
});

test("only the row that says something else is made anew", () => {
  const proof = page();
  const [a, b, c] = [saying("a", "One"), saying("b", "Two"), saying("c", "Three")];
  bring(proof, [a, b, c]);
  const before = rowsOf(proof);
  bring(proof, [a, saying("b", "Other"), c]);
  const after = rowsOf(proof);
  expect(after.map((row, at) => row === before[at])).toEqual([true, false, true]);
  expect(after[1]?.textContent).toBe("Other");
});

test("rows that move, come and go are moved, made and taken out, the others stay what they were", () => {
  const ids = fc.uniqueArray(fc.constantFrom("a", "b", "c", "d", "e", "f"), { maxLength: 6 });
  fc.assert(
    fc.property(fc.array(fc.tuple(ids, fc.integer({ min: 0, max: 2 })), { minLength: 1, maxLength: 6 }), (steps) => {
      const proof = page();
      let before = new Map<string, [Element, string]>();
      for (const [order, version] of steps) {
        const rows = order.map((id) => saying(id, id === "a" ? `${id}${version}` : id));
        bring(proof, rows);
        const fresh = page();
        bring(fresh, rows);
        expect(proof.documentElement.outerHTML).toBe(fresh.documentElement.outerHTML);
        const now = new Map(
          rowsOf(proof).map((row): [string, [Element, string]] => [row.getAttribute("data-row") ?? "", [row, row.outerHTML]]),
        );
        for (const [id, [element, html]] of now) {
          const known = before.get(id);
          if (known?.[1] === html) expect(element).toBe(known[0]);
        }
        before = now;
      }
    }),
    { numRuns: 60 },
  );
});

test("another head, as of a new house style, makes the whole proof anew", () => {
  const proof = page();
  const rows = [saying("a", "One")];
  bring(proof, rows);
  const [before] = rowsOf(proof);
  bring(proof, rows, plain, '<!DOCTYPE html><html lang="cy"><head><title>Other</title></head><body class="pg"><div role="article">');
  expect(proof.documentElement.lang).toBe("cy");
  expect(proof.title).toBe("Other");
  expect(rowsOf(proof).map((row) => row.textContent)).toEqual(["One"]);
  expect(rowsOf(proof)[0]).not.toBe(before);
});

test("the chosen row and piece are outlined, hidden pieces shown where that is asked, and nothing else changes", () => {
  const proof = page();
  const rows = [saying("a", "One"), saying("b", "Two")];
  bring(proof, rows);
  const before = rowsOf(proof);
  bring(proof, rows, { ...plain, chosen: "b", piece: "headline" });
  const dress = () => proof.getElementById("desk-dress")?.textContent ?? "";
  expect(dress()).toContain('[data-row="b"] [data-piece="headline"]{outline:');
  expect(dress()).not.toContain("table.po");
  bring(proof, rows, { ...plain, chosen: "a", hiddenShown: true });
  expect(dress()).toContain('[data-row="a"]{outline:');
  expect(dress()).toContain("table.po");
  expect(rowsOf(proof).every((row, at) => row === before[at])).toBe(true);
});

test("pictures are put away and come back where they were", () => {
  const proof = page();
  const rows = [aRow("a", { html: '<table data-row="a"><tr><td><img src="/pictures/x.png" alt="A viaduct"></td></tr></table>' })];
  bring(proof, rows);
  const shown = () => proof.querySelector("img")?.getAttribute("src") ?? null;
  expect(shown()).toBe("/pictures/x.png");
  for (const picturesOff of [true, true, false, true, false]) {
    bring(proof, rows, { ...plain, picturesOff });
    expect(shown()).toBe(picturesOff ? null : "/pictures/x.png");
  }
});

test("the dark proof answers the question of the scheme, whatever scheme the looker has", () => {
  const proof = page();
  const opening =
    '<!DOCTYPE html><html lang="en"><head><style>@media (prefers-color-scheme:dark){p{color:#fff}}</style></head><body><div role="article">';
  bring(proof, [], { ...plain, dark: true }, opening);
  expect(proof.querySelector("style")?.textContent).toContain("@media all{");
  bring(proof, [], plain, opening);
  expect(proof.querySelector("style")?.textContent).toContain("@media not all{");
});
