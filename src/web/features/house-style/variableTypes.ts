import type { BrandVariable } from "../../api/types";

type Type = BrandVariable["type"];

/** Every type a variable can have, as people call it, with what a new one starts from. */
export const types: { type: Type; label: string; group: string; start: string }[] = [
  { type: "colour", label: "colour", group: "Colours", start: "#222222" },
  { type: "font", label: "font stack", group: "Letters and sizes", start: "Arial, Helvetica, sans-serif" },
  { type: "size", label: "size in pixels", group: "Letters and sizes", start: "16" },
  { type: "weight", label: "font weight", group: "Letters and sizes", start: "700" },
  { type: "number", label: "number", group: "Letters and sizes", start: "1" },
  { type: "text", label: "text", group: "Words, links and pictures", start: "" },
  { type: "link", label: "link", group: "Words, links and pictures", start: "https://example.org/" },
  { type: "picture", label: "picture", group: "Words, links and pictures", start: "" },
];

export const startOf = (type: Type) => types.find((t) => t.type === type)?.start ?? "";

/** What it stands under where it names no group. */
export const groupOf = (variable: BrandVariable) => variable.group || (types.find((t) => t.type === variable.type)?.group ?? "");

/** Whether values of one type can stand where another is asked for: a plain number may be a size or a weight. */
export const fits = (value: Type, place: Type) => value === place || (value === "number" && (place === "size" || place === "weight"));

export const referenceOf = (value: string) => (value.startsWith("{") && value.endsWith("}") ? value.slice(1, -1) : "");

/** A colour as it is written, three digits or six. */
export const hex = /^#([0-9a-f]{3}|[0-9a-f]{6})$/i;
