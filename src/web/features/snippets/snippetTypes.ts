import type { FieldValue, SnippetType } from "../../api/types";

export const types: { type: SnippetType; label: string; note: string }[] = [
  { type: "text", label: "Text", note: "a sentence with emphasis and links" },
  { type: "link", label: "Link", note: "an address" },
  { type: "date", label: "Date", note: "a day, with or without a time" },
  { type: "number", label: "Number", note: "a price or a count" },
  { type: "picture", label: "Picture", note: "a picture of the library" },
];

export const typeLabel = (type: SnippetType) => types.find((t) => t.type === type)?.label ?? type;

export const emptyOf = (type: SnippetType): FieldValue => {
  switch (type) {
    case "text":
      return { kind: "prose", text: { paragraphs: [{ list: "none", runs: [{ text: "" }] }] } };
    case "link":
      return { kind: "link", href: "" };
    case "date":
      return { kind: "moment", start: "", end: "", zone: "Europe/London" };
    case "number":
      return { kind: "words", text: "" };
    case "picture":
      return { kind: "picture", picture: "" };
  }
};
