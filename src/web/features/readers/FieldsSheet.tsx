import { NativeSelect } from "@mantine/core";
import { useState } from "react";
import type { MergeFieldType } from "../../api/types";
import { countOf } from "../../shared/format";
import { FieldForm } from "./FieldForm";
import { newField, typeLabel, types } from "./fieldTypes";
import { NewNamed } from "./NewNamed";
import { PlanSheet } from "./PlanSheet";

/** The fields that are known of each reader: their types, samples and fallbacks. */
export function FieldsSheet() {
  const [type, setType] = useState<MergeFieldType>("text");
  return (
    <PlanSheet
      what="Fields"
      about="What whoever sends your emails knows of each reader. A field stands in words like “Hello Ada”, and says its fallback where it is not known."
      none="Declare the first one: a first name, for example."
      entriesOf={(data) =>
        data.fields.map(({ field, places }) => ({
          key: field.key,
          name: field.label,
          type: typeLabel(field.type).toLowerCase(),
          note: `${places > 0 ? countOf(places, "place") : "not used yet"}${field.fallback == null && !field.always ? ", no fallback" : ""}`,
          retired: field.retired,
        }))
      }
      form={(key, data, edit) => {
        const entry = data.fields.find((f) => f.field.key === key);
        return entry && <FieldForm key={key} entry={entry} mayChange={data.change.allowed} edit={edit} />;
      }}
      add={(taken, edit, choose) => (
        <NewNamed
          label="New field"
          placeholder="First name"
          taken={taken}
          onMake={(key, label) => {
            edit({ kind: "set-merge-field", field: newField(key, label, type), at: null }, `fields/${key}`);
            choose(key);
          }}
        >
          <NativeSelect
            label="Type"
            value={type}
            onChange={(e) => setType(e.currentTarget.value as MergeFieldType)}
            data={types.map((t) => ({ value: t.type, label: t.label }))}
          />
        </NewNamed>
      )}
    />
  );
}
