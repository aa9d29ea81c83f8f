// Takes the open dataset of what mail clients support, the npm package "caniemail", into the core's data.
// Run: node scripts/client-support.mjs   (after npm ci in tests/browser; a browser test holds the two equal)
import { readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

const root = join(import.meta.dirname, "..");
const require = createRequire(join(root, "tests/browser/package.json"));

/** The dataset as the core keeps it: clients in order, and for each feature one letter a client, "-" where nobody knows. */
export function taken() {
  const { data, nicenames, last_update_date } = require("caniemail/caniemail.json");
  const { version, license } = require("caniemail/package.json");
  const keys = new Set();
  for (const { stats } of data) {
    for (const [family, platforms] of Object.entries(stats)) {
      for (const platform of Object.keys(platforms)) keys.add(`${family}.${platform}`);
    }
  }
  const clients = [...keys].sort().map((key) => {
    const [family, platform] = key.split(".");
    return { key, name: `${nicenames.family[family]}, ${nicenames.platform[platform]}` };
  });
  const features = data.map(({ slug, title, category, stats }) => ({
    slug,
    title,
    category,
    // The newest version tested; "a" is partly, as the dataset has it.
    support: clients
      .map(({ key }) => {
        const [family, platform] = key.split(".");
        const said = Object.values(stats[family]?.[platform] ?? {}).at(-1)?.[0] ?? "-";
        return said === "u" ? "-" : said;
      })
      .join(""),
  }));
  const source = `npm package caniemail ${version}, ${license} licence, copyright Avi Goldman and Andrew Powell; data of caniemail.com`;
  return { source, dated: last_update_date.slice(0, 10), clients, features };
}

export const file = join(root, "src/GoldenRule.Core/Checking/client-support.json");

/** One feature a line, so that a newer dataset shows what it changed. */
export const written = ({ features, clients, ...head }) =>
  `${JSON.stringify(head).slice(0, -1)},"clients":[\n${clients.map((c) => JSON.stringify(c)).join(",\n")}],\n"features":[\n${features.map((f) => JSON.stringify(f)).join(",\n")}]}\n`;

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  writeFileSync(file, written(taken()));
  console.log(`${taken().features.length} features, ${taken().clients.length} clients, ${readFileSync(file).length} bytes`);
}
