import fc from "fast-check";
import { expect, test } from "vitest";
import { hasNodes, type InlineNode, nodesIn, onlyNode, readNodes, writeNode } from "./nodes";

const key = fc.stringMatching(/^[a-z][a-z0-9-]{0,20}$/);
const inline = fc.record({ kind: fc.constantFrom<InlineNode["kind"]>("snippet", "field"), key });
const words = fc.string({ minLength: 1 });
const parts = fc.array(fc.oneof(words, inline), { maxLength: 8 });
const write = (all: (string | InlineNode)[]) => all.map((part) => (typeof part === "string" ? part : writeNode(part))).join("");

test("a text parted at its nodes is the same text put together", () =>
  fc.assert(
    fc.property(parts, (all) => {
      const text = write(all);
      expect(write(nodesIn(text))).toBe(text);
      expect(nodesIn(text).filter((part) => typeof part === "object")).toEqual(all.filter((part) => typeof part === "object"));
    }),
    { seed: 20261129 },
  ));

test("what can be typed is no node", () =>
  fc.assert(
    fc.property(
      fc.string().filter((s) => !s.includes("\ufdd0")),
      (text) => {
        expect(hasNodes(text)).toBe(false);
        expect(onlyNode(text)).toBeUndefined();
      },
    ),
    { seed: 20261129 },
  ));

test("a node is read by what it is shown by, or by its technical name", () => {
  const text = `Hello ${writeNode({ kind: "field", key: "first-name" })}!`;
  expect(readNodes(text)).toBe("Hello [first-name]!");
  expect(readNodes(text, () => "Ada")).toBe("Hello Ada!");
  expect(onlyNode(writeNode({ kind: "snippet", key: "hours" }))).toEqual({ kind: "snippet", key: "hours" });
});
