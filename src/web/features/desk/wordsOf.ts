import type { FieldValue } from "../../api/types";

/** What a value says, in words, wherever it is only told of. */
export function wordsOf(value: FieldValue): string {
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
      return value.items.map((item) => Object.values(item).map(wordsOf).filter(Boolean).join("\n")).join("\n\n");
    case "moment":
      return [value.start, value.end].filter(Boolean).join(" to ");
    case "code":
      return value.html;
    case "flag":
      return value.on ? "yes" : "no";
  }
}
