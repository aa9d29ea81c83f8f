// General-purpose CSS inlining plus HTML-to-text on the very email that the core compiled. Prints the median, nanoseconds.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const require = createRequire(new URL("../browser/package.json", import.meta.url));
const juice = require("juice");
const { convert } = require("html-to-text");

const html = readFileSync(process.argv[2], "utf8");
const times = [];
for (let i = 0; i < 40; i++) {
  const start = process.hrtime.bigint();
  juice(html);
  convert(html);
  times.push(Number(process.hrtime.bigint() - start));
}
const warm = times.slice(10).sort((a, b) => a - b);
console.log(warm[Math.floor(warm.length / 2)]);
