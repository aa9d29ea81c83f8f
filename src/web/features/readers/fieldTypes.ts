import type { FieldFormat, MergeField, MergeFieldType } from "../../api/types";

export const types: { type: MergeFieldType; label: string; sample: string; format: FieldFormat }[] = [
  { type: "text", label: "Text", sample: "Ada", format: "as-it-is" },
  { type: "number", label: "Number", sample: "6", format: "as-it-is" },
  { type: "date", label: "Date", sample: "2027-03-31", format: "long-date" },
  { type: "yes-no", label: "Yes or no", sample: "yes", format: "as-it-is" },
  { type: "choice", label: "One of a list", sample: "", format: "as-it-is" },
  { type: "tags", label: "Tags", sample: "", format: "as-it-is" },
];

export const typeLabel = (type: MergeFieldType) => types.find((t) => t.type === type)?.label ?? type;

export const formats: Record<FieldFormat, string> = {
  "as-it-is": "As it is",
  capital: "Capital first letter",
  capitals: "All capitals",
  "long-date": "Saturday 6 March 2027, in the email's language",
  "iso-date": "2027-03-06",
  whole: "Without decimals",
  "two-decimals": "Two decimals",
};

export const hasChoices = (type: MergeFieldType) => type === "choice" || type === "tags";

export const newField = (key: string, label: string, type: MergeFieldType): MergeField => ({
  key,
  label,
  type,
  description: "",
  choices: hasChoices(type) ? ["one", "other"] : [],
  sample: "",
  fallback: null,
  always: false,
  format: types.find((t) => t.type === type)?.format ?? "as-it-is",
  retired: false,
});
