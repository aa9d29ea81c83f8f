// Turns the figures into ratios, each with its bar.
import { readFileSync } from "node:fs";
import { join } from "node:path";

const [folder, peers, ...measured] = process.argv.slice(2);
const [keystroke, picker, review, composed, handOff] = measured.map((said) => JSON.parse(said));
const messages = JSON.parse(readFileSync(join(folder, "messages.json"), "utf8"));
const costs = JSON.parse(readFileSync(join(folder, "costs.json"), "utf8"));
const took = (name) => costs[name].nanoseconds;
const us = (ns) => `${(ns / 1000).toFixed(1)} µs`;
const line = (what, figure, bar, met) =>
  console.log(`${what.padEnd(58)} ${figure.padStart(38)}   bar ${bar.padEnd(22)} ${met ? "met" : "MISSED"}`);

const compile = took("compile");
const ratio = Number(peers) / compile;
line("compile, 30 rows, against juice + html-to-text", `${ratio.toFixed(0)} × faster`, "≥ 100 ×", ratio >= 100);
const encode = compile / took("encode");
line("compile against UTF-8 encoding of the same characters", `${encode.toFixed(1)} ×`, "≤ 10 ×", encode <= 10);
const checks = took("checks") / compile;
line("all checks against compile", `${checks.toFixed(2)} ×`, "≤ 2 ×", checks <= 2);
const growth = took("edit120") / took("edit5");
line("one row's edit, 120 rows against 5", `${growth.toFixed(1)} ×`, "the same, within 1.2 ×", growth <= 1.2);
const ms = (name) => took(name) / 1e6;
line("checks of 4,096 combinations from nothing", `${ms("combinations").toFixed(1)} ms`, "≤ 150 ms", ms("combinations") <= 150);
line(
  "the same after one row's edit, with the edit",
  `${ms("combinationsAgain").toFixed(1)} ms`,
  "within the keystroke's",
  ms("combinationsAgain") <= 50,
);
const timed = (what, { p50, p95, rounds }) =>
  line(what, `p50 ${p50.toFixed(0)}, p95 ${p95.toFixed(0)} ms (${rounds.join(" ")})`, "p95 ≤ 50 ms", p95 <= 50);
timed("keystroke to both proofs, 30 rows, in the browser", keystroke.alone);
timed("the same while someone else writes in it", keystroke.beside);
timed("a move in the colour picker to specimen and table changed", picker);
line(
  "composer usable after opening, 30 rows",
  `${keystroke.usable.toFixed(0)} ms (the first time ${keystroke.first.toFixed(0)})`,
  "≤ 1,000 ms",
  keystroke.usable <= 1000,
);
line(
  "review of 30 rows opened from Home, both proofs drawn",
  `${review.opened.toFixed(0)} ms (the first time ${review.first.toFixed(0)})`,
  "≤ 600 ms",
  review.opened <= 600,
);
line("10,000 personal messages filled in and written as MIME", `${messages.seconds.toFixed(1)} s`, "≤ 10 s", messages.seconds <= 10);
const grown = messages.lastMegabytes - messages.firstMegabytes;
line("memory they leave in use, after 10,000 against 1,000", `${grown.toFixed(1)} MB more`, "flat, within 5 MB", grown <= 5);
const faster = composed / messages.oneNanoseconds;
line("one of them against juice and nodemailer's composer", `${faster.toFixed(0)} × faster`, "faster", faster > 1);
line(
  "hand-off of 30 rows at the API",
  `${handOff.handOff.toFixed(0)} ms (the first time ${handOff.first.toFixed(0)})`,
  "≤ 200 ms",
  handOff.handOff <= 200,
);
line(
  "a hand-off's page for browsers, 20 connections",
  `${handOff.pages.toFixed(0)} a second, ${handOff.wrong} wrong`,
  "≥ 2,000 a second",
  handOff.pages >= 2000 && handOff.wrong === 0,
);
const more = handOff.after - handOff.before;
line("memory that costs the server", `${more.toFixed(0)} MB more`, "flat, within 30 MB", more <= 30);
console.log(
  `\ncompile ${us(compile)}, peers ${us(Number(peers))}, encode ${us(took("encode"))}, checks ${us(took("checks"))}, edit ${[5, 30, 120].map((r) => us(took(`edit${r}`))).join(" / ")} at 5 / 30 / 120 rows`,
);
const kilobytes = (name) => `${(costs[name].bytes / 1024).toFixed(0)} KB`;
console.log(`allocated: compile ${kilobytes("compile")}, checks ${kilobytes("checks")}, edit ${kilobytes("edit30")}, per email of 30 rows`);
const { alone, beside } = keystroke;
const taken = ({ done, rounds, stolen }, when) => `at most ${stolen} % ${when} (${rounds.length} of ${done} rounds)`;
console.log(
  `of the processors other machines took ${taken(alone, "during the keystrokes")}, ${taken(beside, "beside someone else")}, ${taken(picker, "in the colour picker")}`,
);
