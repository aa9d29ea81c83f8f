import { Button, MultiSelect, NativeSelect, TagsInput, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { Audiences, Comparison, Condition, ConditionGroup, ConditionTest, Matching, MergeFieldEntry } from "../../api/types";
import { DayField } from "../../shared/DayField";
import classes from "./ConditionEditor.module.css";
import { asGroup, comparisons, isComplete, matchings, newTest, takes, valuesFor } from "./conditions";

interface Props {
  /** What it is of, for whoever hears it. */
  label: string;
  condition: Condition;
  plan: Audiences;
  /** Whether the audiences that have a name can stand in it. */
  audiences?: boolean;
  disabled?: boolean;
  /** The label is heard, not seen. */
  bare?: boolean;
  onChange: (condition: Condition) => void;
}

/** Which readers are meant: questions about their fields, in groups at most two deep, and what that comes to as a sentence. */
export default function ConditionEditor({ label, condition, plan, audiences, disabled, bare, onChange }: Props) {
  const complete = isComplete(condition, plan.fields);
  const said = useQuery({
    queryKey: ["condition", condition, plan.revision],
    enabled: complete,
    queryFn: () => ask(api.POST("/api/audiences/sentence", { body: condition })),
    placeholderData: (former) => former,
  });
  return (
    <fieldset className={classes.condition} disabled={disabled}>
      <legend className={bare ? "only-heard" : undefined}>{label}</legend>
      <Group group={asGroup(condition)} plan={plan} audiences={audiences} deep={1} onChange={onChange} />
      {complete ? (
        <p className={classes.sentence} aria-live="polite">
          {said.data && `For readers: ${said.data.readers}.`}
          {said.data?.faults.map((fault) => (
            <span key={fault} role="alert">
              {" "}
              ■ {fault}
            </span>
          ))}
        </p>
      ) : (
        <p className={classes.sentence}>Say a value of each question. Until then it is as it was.</p>
      )}
    </fieldset>
  );
}

interface GroupProps {
  group: ConditionGroup;
  plan: Audiences;
  audiences?: boolean;
  deep: number;
  onChange: (group: ConditionGroup) => void;
}

function Group({ group, plan, audiences, deep, onChange }: GroupProps) {
  const { parts } = group;
  const put = (at: number, part?: Condition) =>
    onChange({ ...group, parts: part ? parts.map((p, i) => (i === at ? part : p)) : parts.filter((_, i) => i !== at) });
  const add = (part: Condition) => onChange({ ...group, parts: [...parts, part] });
  const first = plan.fields.find((f) => !f.field.retired);
  return (
    <div className={classes.group} role="group" aria-label={deep === 1 ? "Questions" : "Questions in a group"}>
      <NativeSelect
        size="xs"
        aria-label={deep === 1 ? "How many have to hold" : "How many of the group have to hold"}
        value={group.match}
        onChange={(e) => onChange({ ...group, match: e.currentTarget.value as Matching })}
        data={Object.entries(matchings).map(([value, text]) => ({ value, label: text }))}
      />
      <ul>
        {parts.map((part, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a question is known by where it stands.
          <li key={at}>
            {part.kind === "group" ? (
              <Group group={part} plan={plan} audiences={audiences} deep={deep + 1} onChange={(next) => put(at, next)} />
            ) : part.kind === "audience" ? (
              <span>{plan.audiences.find((a) => a.audience.key === part.key)?.audience.name ?? `"${part.key}", which is not there`}</span>
            ) : (
              <Test test={part} plan={plan} onChange={(next) => put(at, next)} />
            )}
            <button type="button" className={`plain ${classes.remove}`} aria-label={`Remove condition ${at + 1}`} onClick={() => put(at)}>
              ×
            </button>
          </li>
        ))}
      </ul>
      <p className={classes.acts}>
        {first && (
          <Button size="compact-xs" variant="default" onClick={() => add(newTest(first))}>
            Add a condition
          </Button>
        )}
        {first && deep === 1 && (
          <Button size="compact-xs" variant="default" onClick={() => add({ kind: "group", match: "any", parts: [newTest(first)] })}>
            Add a group
          </Button>
        )}
        {audiences && plan.audiences.some((a) => !a.audience.retired) && (
          <NativeSelect
            size="xs"
            aria-label="Add an audience"
            value=""
            onChange={(e) => e.currentTarget.value && add({ kind: "audience", key: e.currentTarget.value })}
            data={[
              { value: "", label: "Add an audience" },
              ...plan.audiences.filter((a) => !a.audience.retired).map(({ audience }) => ({ value: audience.key, label: audience.name })),
            ]}
          />
        )}
      </p>
    </div>
  );
}

function Test({ test, plan, onChange }: { test: ConditionTest; plan: Audiences; onChange: (test: ConditionTest) => void }) {
  const entry = plan.fields.find((f) => f.field.key === test.field);
  const ask = (is: Comparison) => {
    const before = takes(entry, test.is);
    const now = takes(entry, is);
    const kept = before === now ? test.values : now === "none" ? [] : test.values.slice(0, 1);
    onChange({ ...test, is, values: kept.length > 0 || now === "none" ? kept : entry ? valuesFor(entry.field) : [""] });
  };
  return (
    <span className={classes.test}>
      <NativeSelect
        size="xs"
        aria-label="Field"
        value={test.field}
        onChange={(e) => {
          const next = plan.fields.find((f) => f.field.key === e.currentTarget.value);
          if (next) {
            onChange(newTest(next));
          }
        }}
        data={[
          ...(entry ? [] : [{ value: test.field, label: `"${test.field}", which is not there` }]),
          ...plan.fields.filter((f) => !f.field.retired || f === entry).map(({ field }) => ({ value: field.key, label: field.label })),
        ]}
      />
      <NativeSelect
        size="xs"
        aria-label="Comparison"
        value={test.is}
        onChange={(e) => ask(e.currentTarget.value as Comparison)}
        data={(entry?.comparisons ?? [{ comparison: test.is, most: 1 }]).map(({ comparison }) => ({
          value: comparison,
          label: comparison === "one-of" && entry?.field.type === "tags" ? "has any of" : comparisons[comparison],
        }))}
      />
      <Value test={test} entry={entry} onChange={(values) => onChange({ ...test, values })} />
    </span>
  );
}

interface ValueProps {
  test: ConditionTest;
  entry?: MergeFieldEntry;
  onChange: (values: string[]) => void;
}

function Value({ test, entry, onChange }: ValueProps) {
  const how = takes(entry, test.is);
  const field = entry?.field;
  const value = test.values[0] ?? "";
  if (how === "none") {
    return null;
  }
  const choices = field?.type === "yes-no" ? ["yes", "no"] : field?.choices?.length ? field.choices : undefined;
  if (how === "several") {
    return choices ? (
      <MultiSelect size="xs" aria-label="Values" data={choices} value={test.values} onChange={onChange} />
    ) : (
      <TagsInput
        size="xs"
        aria-label="Values"
        placeholder="Type one, press Enter"
        value={test.values.filter(Boolean)}
        onChange={onChange}
      />
    );
  }
  return choices ? (
    <NativeSelect size="xs" aria-label="Value" value={value} data={choices} onChange={(e) => onChange([e.currentTarget.value])} />
  ) : field?.type === "date" ? (
    <DayField label="Value" bare value={value} onChange={(day) => onChange([day])} />
  ) : (
    <TextInput
      size="xs"
      aria-label="Value"
      inputMode={field?.type === "number" ? "decimal" : undefined}
      value={value}
      onChange={(e) => onChange([e.currentTarget.value])}
    />
  );
}
