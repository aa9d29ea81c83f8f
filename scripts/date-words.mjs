// Takes how languages write days from the Unicode CLDR, as the Intl of this Node.js has it, into the core's data.
// Run: node scripts/date-words.mjs   (a test of the front end holds the names equal)
import { writeFileSync } from "node:fs";
import { join } from "node:path";

const letters = "abcdefghijklmnopqrstuvwxyz";
const bases = [...letters].flatMap((a) => [...letters].map((b) => a + b)).filter((tag) => Intl.DateTimeFormat.supportedLocalesOf(tag).length > 0);
// Regions that write days otherwise than their language's first.
const regions = ["en-AU", "en-CA", "en-GB", "en-IE", "en-IN", "en-NZ", "en-ZA", "de-AT", "fr-CA", "es-MX", "es-US", "pt-PT", "zh-TW", "zh-HK", "sr-Latn", "nl-BE"];

const always = { calendar: "gregory", numberingSystem: "latn", timeZone: "UTC" };
const part = (tag, options, at, type) => new Intl.DateTimeFormat(tag, { ...always, ...options }).formatToParts(at).find((p) => p.type === type)?.value;
const months = Array.from({ length: 12 }, (_, month) => new Date(Date.UTC(2027, month, 15)));
// 2027-08-01 is a Sunday.
const days = Array.from({ length: 7 }, (_, day) => new Date(Date.UTC(2027, 7, 1 + day)));
const full = { dateStyle: "full" };

function taken(tag) {
  const form = new Intl.DateTimeFormat(tag, { ...always, ...full })
    .formatToParts(months[0])
    .map(({ type, value }) => (type === "literal" ? value : `{${type}}`))
    .join("");
  return {
    form,
    weekdays: days.map((at) => part(tag, full, at, "weekday")),
    months: months.map((at) => part(tag, full, at, "month")),
    alone: months.map((at) => part(tag, { month: "long" }, at, "month")),
    short: months.map((at) => part(tag, { day: "numeric", month: "short", year: "numeric" }, at, "month")),
  };
}

const languages = {};
for (const tag of bases) languages[tag] = taken(tag);
for (const tag of regions) {
  const own = taken(tag);
  // Britain and Ireland write no comma there (the style guide of GOV.UK, from memory).
  if (["en-GB", "en-IE"].includes(tag)) own.form = own.form.replace(",", "");
  if (JSON.stringify(own) !== JSON.stringify(languages[tag.split("-")[0]])) languages[tag] = own;
}
const source = `Unicode CLDR ${process.versions.cldr}, Unicode licence v3, by the Intl of Node.js`;
const lines = Object.entries(languages).map(([tag, words]) => `    ${JSON.stringify(tag)}: ${JSON.stringify(words)}`);
writeFileSync(join(import.meta.dirname, "../src/GoldenRule.Core/Compiling/date-words.json"), `{\n  "source": ${JSON.stringify(source)},\n  "languages": {\n${lines.join(",\n")}\n  }\n}\n`);
