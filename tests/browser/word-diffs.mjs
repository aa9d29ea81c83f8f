// What the npm package "diff" finds between 500 pairs of texts, for the core's tests: node word-diffs.mjs > ../GoldenRule.Core.Tests/word-diffs.json
import { diffArrays } from "diff";
import { seeded } from "./seeded.mjs";

const random = seeded(20261130);
const pick = (list) => list[Math.floor(random() * list.length)];
const syllables = ["ka", "lo", "mi", "ren", "dor", "vel", "tas", "um", "ir", "bo", "£4", "n’", "é"];
const word = () =>
  Array.from({ length: 2 + Math.floor(random() * 3) }, () => pick(syllables))
    .join("")
    .replace(/[’£]/g, "");
const joints = [" ", " ", " ", ", ", " – ", "\n"];

const pairs = Array.from({ length: 500 }, () => {
  const before = Array.from({ length: 5 + Math.floor(random() * 40) }, word);
  const after = before.flatMap((w) => {
    const dice = random();
    if (dice < 0.08) return [];
    if (dice < 0.16) return [word()];
    return dice < 0.22 ? [w, word()] : [w];
  });
  if (random() < 0.2 && after.length > 6) {
    after.push(...after.splice(0, 3));
  }
  const text = (words) => words.reduce((all, w) => (all ? all + joints[w.length % joints.length] + w : w), "");
  const changes = diffArrays(before, after);
  const of = (which) => changes.filter((c) => c[which]).flatMap((c) => c.value);
  return { before: text(before), after: text(after), added: of("added"), removed: of("removed") };
});
console.log(JSON.stringify(pairs, null, 1));
