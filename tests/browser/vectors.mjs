// Writes the contrast of 1,000 random colour pairs, as colorjs.io computes it (WCAG 2.1 algorithm), for the core's tests.
// The pairs come from a fixed seed; run `node vectors.mjs` here after changing the version of colorjs.io.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname } from "node:path";
import Color from "colorjs.io";
import { toGamutCSS } from "colorjs.io/fn";
import { syllable } from "syllable";

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

// OKLCH of 300 colours, the nearest shown colour of 300 OKLCH colours of which many lie outside sRGB (CSS Color 4's
// mapping), and CIEDE2000 of 300 pairs.
const fraction = () => next() / 2147483647;
const write = (name, made) =>
  writeFileSync(new URL(`../GoldenRule.Core.Tests/Vectors/${name}.csv`, import.meta.url), `${made.join("\n")}\n`);
write(
  "colorjs-oklch",
  Array.from({ length: 300 }, () => {
    const colour = hex();
    return [colour, ...new Color(colour).to("oklch").coords.map((c) => c ?? 0)].join(",");
  }),
);
write(
  "colorjs-gamut",
  Array.from({ length: 300 }, () => {
    const coords = [fraction(), fraction() * 0.35, fraction() * 360];
    return [
      ...coords,
      new Color(toGamutCSS(new Color("oklch", coords), { space: "srgb" })).to("srgb").toString({ format: "hex", collapse: false }),
    ].join(",");
  }),
);
write(
  "colorjs-ciede2000",
  Array.from({ length: 300 }, () => {
    const [a, b] = [hex(), hex()];
    return `${a},${b},${new Color(a).deltaE(new Color(b), "2000")}`;
  }),
);

// The examples of the CommonMark specification for emphasis, links, lists and paragraphs (npm "commonmark-spec", CC BY-SA 4.0).
const { tests } = createRequire(import.meta.url)("commonmark-spec");
const sections = ["Emphasis and strong emphasis", "Links", "Paragraphs", "Lists", "List items", "Hard line breaks", "Backslash escapes"];
writeFileSync(
  new URL("../GoldenRule.Core.Tests/Vectors/commonmark.json", import.meta.url),
  `${JSON.stringify(
    tests.filter(({ section }) => sections.includes(section)).map(({ number, markdown, html }) => ({ number, markdown, html })),
    null,
    1,
  )}\n`,
);

// Syllables of the specification's words, as the npm package "syllable" counts them.
const wordsOf = [
  ...new Set(
    tests
      .map((t) => t.markdown)
      .concat(createRequire(import.meta.url)("commonmark-spec").text)
      .join(" ")
      .toLowerCase()
      .match(/\b[a-z]{4,}\b/g),
  ),
].sort();
write(
  "syllable",
  wordsOf.filter((_, at) => at % 3 === 0).map((word) => `${word},${syllable(word)}`),
);

// Tables as other programs write them, with what they say (npm "csv-spectrum").
const spectrum = dirname(createRequire(import.meta.url).resolve("csv-spectrum"));
writeFileSync(
  new URL("../GoldenRule.Core.Tests/Vectors/csv-spectrum.json", import.meta.url),
  `${JSON.stringify(
    readdirSync(`${spectrum}/csvs`)
      .map((file) => file.replace(".csv", ""))
      .sort()
      .map((name) => ({
        name,
        csv: readFileSync(`${spectrum}/csvs/${name}.csv`, "utf8"),
        rows: [JSON.parse(readFileSync(`${spectrum}/json/${name}.json`, "utf8"))].flat(),
      })),
    null,
    1,
  )}\n`,
);
