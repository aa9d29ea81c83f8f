// Writes the contrast of 1,000 random colour pairs, as colorjs.io computes it (WCAG 2.1 algorithm), for the core's tests.
// The pairs come from a fixed seed; run `node vectors.mjs` here after changing the version of colorjs.io.
import { writeFileSync } from "node:fs";
import Color from "colorjs.io";

let seed = 20261124;
const next = () => {
  // Park and Miller's minimal standard generator, Communications of the ACM 31 (1988).
  seed = (seed * 48271) % 2147483647;
  return seed;
};
const hex = () => `#${(next() % 0x1000000).toString(16).padStart(6, "0")}`;
const lines = Array.from({ length: 1000 }, () => {
  const [a, b] = [hex(), hex()];
  return `${a},${b},${new Color(a).contrast(new Color(b), "WCAG21")}`;
});
writeFileSync(new URL("../GoldenRule.Core.Tests/Vectors/colorjs-contrast.csv", import.meta.url), `${lines.join("\n")}\n`);
