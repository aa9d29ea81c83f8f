import fc from "fast-check";
import { expect, test } from "vitest";
import { alike } from "./alike";

test("two values are alike where they say the same as JSON", () => {
  expect(alike({ a: 1, b: null }, { a: 1 })).toBe(true);
  expect(alike({ a: [1, { b: "x" }] }, { a: [1, { b: "x", c: undefined }] })).toBe(true);
  expect(alike([1, 2], [2, 1])).toBe(false);
  expect(alike([], {})).toBe(false);
  expect(alike("", null)).toBe(false);
  expect(alike({ a: {} }, { a: 0 })).toBe(false);
});

test("whatever a value is, it is alike with itself written anew, and with nothing changed in it", () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
      expect(alike(a, JSON.parse(JSON.stringify(a)))).toBe(true);
      expect(alike(a, b)).toBe(alike(b, a));
      if (!JSON.stringify([a, b]).includes("null") && JSON.stringify(a) === JSON.stringify(b)) {
        expect(alike(a, b)).toBe(true);
      }
    }),
  );
});
