import type { Edit, FieldValue } from "../../api/types";
import { writtenMoment } from "../../shared/format";
import { readNodes } from "../../shared/nodes";
import { isEveryone } from "../readers/conditions";

/** What a value says, in words, wherever it is only told of. */
export const wordsOf = (value: FieldValue) => readNodes(written(value));

function written(value: FieldValue): string {
  switch (value.kind) {
    case "words":
      return value.text;
    case "prose":
      return (value.text.paragraphs ?? []).map((p) => (p.runs ?? []).map((r) => r.text).join("")).join("\n");
    case "link":
      return value.href;
    case "picture":
      return "A picture of the library";
    case "cells":
      return value.rows.map((r) => r.join(", ")).join("\n");
    case "links":
      return value.links.map((l) => `${l.name} ${l.href}`).join("\n");
    case "entries":
      return value.items.map((item) => Object.values(item).map(written).filter(Boolean).join("\n")).join("\n\n");
    case "moment":
      return [value.start, value.end].filter(Boolean).map(writtenMoment).join(" to ");
    case "code":
      return value.html;
    case "flag":
      return value.on ? "yes" : "no";
  }
}

/** What an edit sets its place to, in words: told where two set one place at once. */
export const wordsOfEdit = (edit: Edit) => readNodes(writtenBy(edit));

function writtenBy(edit: Edit): string {
  switch (edit.kind) {
    case "set-fill":
      return wordsOf(edit.value) || "nothing";
    case "set-look":
    case "set-detail":
      return edit.value || "nothing";
    case "set-name":
      return edit.name;
    case "set-piece-name":
      return edit.name ?? "its usual name";
    case "set-description":
    case "set-varies":
      return edit.text || "nothing";
    case "set-instruction":
      return edit.text ?? "no instruction";
    case "set-plain-text":
      return edit.value?.text ?? "made from the email";
    case "set-language":
      return edit.language;
    case "set-tags":
      return edit.tags.join(", ") || "none";
    case "set-campaign-types":
      return edit.keys.join(", ") || "all campaign types";
    case "set-attachments":
      return edit.files.map((f) => f.name).join(", ") || "no files";
    case "set-shown":
      return edit.shown?.replace("-", "s ") ?? "as inherited";
    case "set-condition":
      return !edit.condition
        ? "as inherited"
        : edit.condition.kind === "audience"
          ? `for ${edit.condition.key}`
          : isEveryone(edit.condition)
            ? "for everyone"
            : "by a condition of its own";
    case "set-offer":
      return edit.choices.join(", ") || "nothing to choose";
    case "set-row-kind":
      return edit.rowKind;
    case "set-placeholder":
      return edit.placeholder ? "only says what belongs there" : "may be sent";
    case "set-lock":
      return edit.lock ? listed(edit.lock) : "as inherited";
    case "set-limit":
      return edit.limit ? listed(edit.limit) : "no limit";
    case "set-zone":
      return listed(edit.zone);
    case "set-layout":
      return edit.shares.map((s) => s.parts).join(" : ");
    case "clear-fill":
    case "clear-look":
      return "as the template has it";
    default:
      return listed(edit);
  }
}

// Names of members as words, and what they hold.
function listed(value: object): string {
  return Object.entries(value)
    .filter(
      ([name, held]) => !["id", "locks", "default", "kind", "row", "piece", "target"].includes(name) && held != null && String(held) !== "",
    )
    .map(([name, held]) => `${name.replace(/([A-Z])/g, " $1").toLowerCase()}: ${Array.isArray(held) ? held.join(", ") : String(held)}`)
    .concat("kind" in value && !("id" in value) && typeof value.kind === "string" && !value.kind.includes("set-") ? [value.kind] : [])
    .join("\n");
}
