// Takes how languages write days and numbers, and which way they run, from the Unicode CLDR, as the Intl of this Node.js has it,
// into the core's data.
// Run: node scripts/languages.mjs   (a test of the front end holds both equal)
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
const write = (name, languages) => {
  const lines = Object.entries(languages).map(([tag, words]) => `    ${JSON.stringify(tag)}: ${JSON.stringify(words)}`);
  const text = `{\n  "source": ${JSON.stringify(source)},\n  "languages": {\n${lines.join(",\n")}\n  }\n}\n`;
  writeFileSync(join(import.meta.dirname, `../src/GoldenRule.Core/Languages/${name}.json`), text);
};
write("date-words", languages);

// Digits are the ASCII ones in every language, as in dates: what reads an address or a price aloud or copies it knows them.
function numbers(tag) {
  const number = new Intl.NumberFormat(tag, { numberingSystem: "latn" });
  const sign = (value, type) => number.formatToParts(value).find((p) => p.type === type)?.value ?? "";
  const groups = number.formatToParts(123456789).filter((p) => p.type === "integer").map((p) => p.value.length);
  return {
    decimal: sign(1.5, "decimal"),
    group: sign(123456789, "group"),
    minus: sign(-1, "minusSign"),
    // Digits from which on they are grouped, and how many are in the groups before the last three.
    from: sign(1234, "group") ? 4 : 5,
    before: groups.at(-2) ?? 3,
    direction: (new Intl.Locale(tag).getTextInfo?.() ?? new Intl.Locale(tag).textInfo).direction,
    name: new Intl.DisplayNames("en", { type: "language" }).of(tag),
  };
}
const writing = {};
for (const tag of bases) writing[tag] = numbers(tag);
for (const tag of [...regions, "de-CH", "fr-CH", "ar-EG", "pa-Arab", "ku-Arab", "az-Arab", "uz-Arab", "ms-Arab", "ha-Arab", "kk-Arab"]) {
  const own = numbers(tag);
  const { name: _, ...said } = own;
  const { name: __, ...base } = writing[tag.split("-")[0]] ?? {};
  if (JSON.stringify(said) !== JSON.stringify(base)) writing[tag] = own;
}
write("writing", writing);
