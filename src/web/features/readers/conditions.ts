import type { Comparison, Condition, ConditionGroup, ConditionTest, Matching, MergeField, MergeFieldEntry } from "../../api/types";

export const comparisons: Record<Comparison, string> = {
  is: "is",
  "is-not": "is not",
  "one-of": "is one of",
  more: "is more than",
  less: "is less than",
  before: "is before",
  after: "is after",
  has: "has",
  empty: "is not known",
  "not-empty": "is known",
};

export const matchings: Record<Matching, string> = { all: "all of these hold", any: "any of these holds", none: "none of these holds" };

export const everyone: ConditionGroup = { kind: "group", match: "all", parts: [] };

export const isEveryone = (condition: Condition) => condition.kind === "group" && condition.parts.length === 0 && condition.match !== "any";

/** The condition as a group, to be edited: what is asked alone is a group of one. */
export const asGroup = (condition: Condition): ConditionGroup =>
  condition.kind === "group" ? condition : { kind: "group", match: "all", parts: [condition] };

const mostOf = (field: MergeFieldEntry | undefined, is: Comparison) => field?.comparisons.find((c) => c.comparison === is)?.most ?? 1;

/** Whether a test takes a value, or several. */
export const takes = (field: MergeFieldEntry | undefined, is: Comparison): "none" | "one" | "several" => {
  const most = mostOf(field, is);
  return most === 0 ? "none" : most === 1 ? "one" : "several";
};

/** A first question of a field, with a value where there is one to choose. */
export function newTest(entry: MergeFieldEntry): ConditionTest {
  const is = entry.comparisons[0]?.comparison ?? "is";
  return { kind: "test", field: entry.field.key, is, values: valuesFor(entry.field) };
}

/** What a list begins with; of what is typed nothing. */
export const valuesFor = (field: MergeField): string[] =>
  field.type === "yes-no" ? ["yes"] : field.type === "choice" || field.type === "tags" ? (field.choices ?? []).slice(0, 1) : [""];

/** Whether every question in it has its values. */
export const isComplete = (condition: Condition, fields: MergeFieldEntry[]): boolean =>
  condition.kind === "group"
    ? condition.parts.every((p) => isComplete(p, fields))
    : condition.kind === "audience" ||
      takes(
        fields.find((f) => f.field.key === condition.field),
        condition.is,
      ) === "none" ||
      (condition.values.length > 0 && condition.values.every((v) => v.trim() !== ""));
