import { afterEach, expect, test, vi } from "vitest";
import { newId } from "./ids";
import { asScheme } from "./scheme";

afterEach(() => vi.useRealTimers());

/** RFC 9562, 5.7: 48 bits of Unix milliseconds, version 7, variant 10. The value is that of its appendix A.6. */
test("ids are UUIDs of version 7", () => {
  vi.useFakeTimers({ toFake: ["Date"] });
  vi.setSystemTime(0x017f22e279b0);
  const id = newId();
  expect(id).toMatch(/^017f22e2-79b0-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  expect(new Date(Number.parseInt(id.replace("-", "").slice(0, 12), 16)).toISOString()).toBe("2022-02-22T19:22:22.000Z");
});

test("ids made later sort later, and none comes twice", () => {
  vi.useFakeTimers({ toFake: ["Date"] });
  const ids = Array.from({ length: 500 }, (_, i) => {
    vi.setSystemTime(1_800_000_000_000 + i);
    return newId();
  });
  expect([...ids].sort()).toEqual(ids);
  expect(new Set(ids).size).toBe(ids.length);
});

test("the question of the colour scheme is answered, every time it is asked and nothing else", () => {
  const css = "@media (prefers-color-scheme:dark){a{}}@media (prefers-color-scheme:dark){b{}}@media (max-width:640px){c{}}";
  expect(asScheme(css, true)).toBe("@media all{a{}}@media all{b{}}@media (max-width:640px){c{}}");
  expect(asScheme(css, false)).toBe("@media not all{a{}}@media not all{b{}}@media (max-width:640px){c{}}");
});
