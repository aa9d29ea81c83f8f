import { Checkbox, NativeSelect, Textarea, TextInput } from "@mantine/core";
import type { Audiences, MergeField } from "../../api/types";
import type { SendEdit } from "../../shared/useEditedDocument";
import { useTypedField } from "../../shared/useLiveField";
import { Refused, Retiring } from "./FormParts";
import { formats, hasChoices, typeLabel, types } from "./fieldTypes";
import classes from "./ReadersRoom.module.css";

interface Props {
  entry: Audiences["fields"][number];
  mayChange: boolean;
  edit: SendEdit;
}

/** Lines that are empty while they are typed are no choices. */
const tidy = (field: MergeField): MergeField => ({ ...field, choices: field.choices?.map((c) => c.trim()).filter(Boolean) });

/** One field: what it is called, what stands where it is not known, how it is written. */
export function FieldForm({ entry, mayChange, edit }: Props) {
  const { field: served, places } = entry;
  const target = `fields/${served.key}`;
  const [field, set, refused] = useTypedField<MergeField>(
    served,
    target,
    (next) => ({ kind: "set-merge-field", field: tidy(next), at: null }),
    tidy,
  );
  const change = (part: Partial<MergeField>) => set((now) => ({ ...now, ...part }));
  const sample = types.find((t) => t.type === field.type)?.sample;
  return (
    <div className={classes.form}>
      <h2>{field.label}</h2>
      <p className="soft">
        {typeLabel(field.type)}, technical name <code>{field.key}</code>
      </p>
      <Refused why={refused} />
      <TextInput
        label="Name"
        maxLength={120}
        value={field.label}
        disabled={!mayChange}
        onChange={(e) => change({ label: e.currentTarget.value })}
      />
      <TextInput
        label="What it is"
        value={field.description ?? ""}
        disabled={!mayChange}
        onChange={(e) => change({ description: e.currentTarget.value })}
      />
      {hasChoices(field.type) && (
        <Textarea
          label={field.type === "tags" ? "Tags there are" : "What there is to choose from"}
          description="One in each line."
          autosize
          minRows={2}
          value={(field.choices ?? []).join("\n")}
          disabled={!mayChange}
          onChange={(e) => change({ choices: e.currentTarget.value.split("\n") })}
        />
      )}
      <TextInput
        label="Sample"
        description="What proofs show."
        placeholder={sample}
        value={field.sample ?? ""}
        disabled={!mayChange}
        onChange={(e) => change({ sample: e.currentTarget.value })}
      />
      <Checkbox
        label="It is known of every reader"
        checked={field.always ?? false}
        disabled={!mayChange}
        onChange={(e) => change({ always: e.currentTarget.checked })}
      />
      {!field.always && (
        <>
          <Checkbox
            label="Where it is not known, say something else"
            checked={field.fallback != null}
            disabled={!mayChange}
            onChange={(e) => change({ fallback: e.currentTarget.checked ? "" : null })}
          />
          {field.fallback != null && (
            <TextInput
              label="Fallback"
              description={`"Hello ${field.sample || field.label}" is "Hello ${field.fallback || "…"}" then.`}
              value={field.fallback}
              disabled={!mayChange}
              onChange={(e) => change({ fallback: e.currentTarget.value })}
            />
          )}
        </>
      )}
      {entry.formats.length > 1 && (
        <NativeSelect
          label="Written"
          value={field.format}
          disabled={!mayChange}
          onChange={(e) => change({ format: e.currentTarget.value as MergeField["format"] })}
          data={entry.formats.map((format) => ({ value: format, label: formats[format] }))}
        />
      )}
      {mayChange && (
        <Retiring
          retired={field.retired ?? false}
          places={places}
          onRetire={(retired) => change({ retired })}
          onRemove={() => edit({ kind: "remove-merge-field", key: field.key }, target)}
        />
      )}
    </div>
  );
}
