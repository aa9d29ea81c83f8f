// Turns the figures into ratios, each with its bar.
import { readFileSync } from "node:fs";
import { join } from "node:path";

const [folder, peers, keystroke, picker] = [
  process.argv[2],
  Number(process.argv[3]),
  JSON.parse(process.argv[4]),
  JSON.parse(process.argv[5]),
];
const costs = JSON.parse(readFileSync(join(folder, "costs.json"), "utf8"));
const took = (name) => costs[name].nanoseconds;
const us = (ns) => `${(ns / 1000).toFixed(1)} µs`;
const line = (what, figure, bar, met) =>
  console.log(`${what.padEnd(58)} ${figure.padStart(26)}   bar ${bar.padEnd(22)} ${met ? "met" : "MISSED"}`);

const compile = took("compile");
const ratio = peers / compile;
line("compile, 30 rows, against juice + html-to-text", `${ratio.toFixed(0)} × faster`, "≥ 100 ×", ratio >= 100);
const encode = compile / took("encode");
line("compile against UTF-8 encoding of the same characters", `${encode.toFixed(1)} ×`, "≤ 10 ×", encode <= 10);
const checks = took("checks") / compile;
line("all checks against compile", `${checks.toFixed(2)} ×`, "≤ 2 ×", checks <= 2);
const growth = took("edit120") / took("edit5");
line("one row's edit, 120 rows against 5", `${growth.toFixed(1)} ×`, "about 1 ×", growth <= 1.5);
line(
  "keystroke to both proofs, 30 rows, in the browser",
  `p50 ${keystroke.p50.toFixed(0)} ms, p95 ${keystroke.p95.toFixed(0)} ms`,
  "p95 ≤ 50 ms",
  keystroke.p95 <= 50,
);
line("the same while someone else writes in it", `p95 ${keystroke.p95Beside.toFixed(0)} ms`, "p95 ≤ 50 ms", keystroke.p95Beside <= 50);
line(
  "a move in the colour picker to specimen and table changed",
  `p50 ${picker.p50.toFixed(0)} ms, p95 ${picker.p95.toFixed(0)} ms`,
  "p95 ≤ 50 ms",
  picker.p95 <= 50,
);
line("composer usable after opening, 30 rows", `${keystroke.usable.toFixed(0)} ms`, "≤ 1,000 ms", keystroke.usable <= 1000);
console.log(
  `\ncompile ${us(compile)}, peers ${us(peers)}, encode ${us(took("encode"))}, checks ${us(took("checks"))}, edit ${[5, 30, 120].map((r) => us(took(`edit${r}`))).join(" / ")} at 5 / 30 / 120 rows`,
);
const kilobytes = (name) => `${(costs[name].bytes / 1024).toFixed(0)} KB`;
console.log(`allocated: compile ${kilobytes("compile")}, checks ${kilobytes("checks")}, edit ${kilobytes("edit30")}, per email of 30 rows`);
