import fc from "fast-check";
import { expect, test } from "vitest";
import type { RichText } from "../../../../api/types";
import { fromEditor, toEditor, wordsOfVariables } from "./proseJson";

type Paragraph = NonNullable<RichText["paragraphs"]>[number];
type Run = NonNullable<Paragraph["runs"]>[number];

const run = fc.record({
  text: fc.string({ unit: fc.constantFrom("a", "é", "中", "👩‍🚒", " ", "\n", "&", "<"), maxLength: 6 }),
  bold: fc.boolean(),
  italic: fc.boolean(),
  href: fc.option(fc.constantFrom("https://larkfell.example.org/", "{site}", "mailto:hello@larkfell.example.org"), { nil: undefined }),
  variable: fc.option(fc.constantFrom("telephone", "address"), { nil: undefined, freq: 4 }),
});
const text: fc.Arbitrary<RichText> = fc.record({
  paragraphs: fc.array(
    fc.record({ list: fc.constantFrom("none" as const, "bullet" as const, "number" as const), runs: fc.array(run, { maxLength: 5 }) }),
    {
      minLength: 1,
      maxLength: 6,
    },
  ),
});

/** What a reader gets of a run: each character with its dress; a variable is one thing, whatever it comes to. */
const seen = ({ text, bold, italic, href, variable }: Run) => {
  const dress = `${bold ? "b" : ""}${italic ? "i" : ""} ${href ?? ""}`;
  return variable ? [`{${variable}} ${dress}`] : Array.from(text ?? "", (c) => `${c} ${dress}`);
};
const read = (text: RichText) => (text.paragraphs ?? []).map((p) => ({ list: p.list ?? "none", runs: (p.runs ?? []).flatMap(seen) }));

test("whatever text there is comes back from the editor as it went in", () => {
  fc.assert(
    fc.property(text, (written) => {
      expect(read(fromEditor(toEditor(written)))).toEqual(read(written));
    }),
  );
});

test("what the editor gives back is the shortest form of it: going there once more changes nothing", () => {
  fc.assert(
    fc.property(text, (written) => {
      const once = fromEditor(toEditor(written));
      expect(fromEditor(toEditor(once))).toEqual(once);
      for (const { runs = [] } of once.paragraphs ?? []) {
        for (const [at, now] of runs.entries()) {
          const before = runs[at - 1];
          const alike =
            before &&
            !before.variable &&
            !now.variable &&
            before.bold === now.bold &&
            before.italic === now.italic &&
            before.href === now.href;
          expect(alike ?? false).toBe(false);
        }
      }
    }),
  );
});

test("items that follow one another stand in one list, and another sort of list begins anew", () => {
  const item = (list: Paragraph["list"], words: string): Paragraph => ({ list, runs: [{ text: words }] });
  const doc = toEditor({
    paragraphs: [item("bullet", "one"), item("bullet", "two"), item("number", "first"), item("none", "after"), item("bullet", "three")],
  });
  expect(doc.content?.map((node) => `${node.type} ${node.content?.length}`)).toEqual([
    "bulletList 2",
    "orderedList 1",
    "paragraph 1",
    "bulletList 1",
  ]);
});

test("nothing written is an empty paragraph to write in", () => {
  expect(toEditor({ paragraphs: [] })).toEqual({ type: "doc", content: [{ type: "paragraph" }] });
});

test("a brand variable is shown by what it comes to and kept by its key", () => {
  const run = { text: "", bold: true, italic: false, variable: "telephone" };
  const written: RichText = { paragraphs: [{ list: "none", runs: [run] }] };
  const words = wordsOfVariables({ paragraphs: [{ list: "none", runs: [{ ...run, text: "01632 960 210" }] }] });
  const doc = toEditor(written, words);
  expect(doc.content?.[0]?.content).toEqual([
    { type: "variable", attrs: { key: "telephone", text: "01632 960 210" }, marks: [{ type: "bold" }] },
  ]);
  expect(fromEditor(doc)).toEqual(written);
});
