import { Button, NativeSelect, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import type { MergeFieldType } from "../../api/types";
import { EditFault, EditMoves } from "../../shared/EditState";
import { countOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { keyOf } from "../../shared/technicalName";
import { EditingContext } from "../../shared/useLiveField";
import { useSession } from "../session/useSession";
import { FieldForm } from "./FieldForm";
import { newField, typeLabel, types } from "./fieldTypes";
import classes from "./ReadersRoom.module.css";
import { useAudiences } from "./useAudiences";

/** The fields that are known of each reader: their types, samples and fallbacks. */
export function FieldsSheet() {
  const { query, edit, move, fault, offline, stuck, editing } = useAudiences(useSession().data?.id ?? "");
  const [chosen, choose] = useState<string>();
  const [retired, setRetired] = useState(false);
  const data = query.data;
  if (!data) {
    return <Pending query={query} what="The fields" />;
  }
  const shown = data.fields.filter((f) => retired || !f.field.retired);
  const entry = data.fields.find((f) => f.field.key === chosen) ?? shown[0];
  return (
    <EditingContext value={editing}>
      <div className={classes.columns}>
        <section className={classes.list} aria-label="Fields">
          <p className={classes.about}>
            What whoever sends your emails knows of each reader. A field stands in words like “Hello Ada”, and says its fallback where it is
            not known.
          </p>
          <ul>
            {shown.map(({ field, places }) => (
              <li key={field.key}>
                <button
                  type="button"
                  className={`plain ${classes.entry}`}
                  aria-current={entry?.field.key === field.key}
                  onClick={() => choose(field.key)}
                >
                  <b>{field.label}</b>
                  <span className={classes.type}>{typeLabel(field.type).toLowerCase()}</span>
                  <span className={classes.note}>
                    {field.retired && "retired, "}
                    {places > 0 ? countOf(places, "place") : "nowhere yet"}
                    {field.fallback == null && !field.always && ", no fallback"}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          {shown.length === 0 && <p className={classes.about}>Declare the first one: a first name, for example.</p>}
          {data.fields.some((f) => f.field.retired) && (
            <button type="button" className={`plain underlined ${classes.retired}`} onClick={() => setRetired(!retired)}>
              {retired ? "Hide retired ones" : "Show retired ones"}
            </button>
          )}
          {data.change.allowed && (
            <NewField
              taken={(key) => data.fields.some((f) => f.field.key === key)}
              onMake={(key, label, type) => {
                edit({ kind: "set-merge-field", field: newField(key, label, type), at: null }, `fields/${key}`);
                choose(key);
              }}
            />
          )}
        </section>
        <section className={classes.middle} aria-label={entry?.field.label ?? "Field"}>
          <div className={classes.moves}>
            <EditMoves {...data} offline={offline} move={move} />
          </div>
          <EditFault fault={fault} stuck={stuck} move={move} />
          {!data.change.allowed && <p className={classes.about}>{data.change.reason}</p>}
          {entry && <FieldForm key={entry.field.key} entry={entry} mayChange={data.change.allowed} edit={edit} />}
        </section>
      </div>
    </EditingContext>
  );
}

interface NewProps {
  taken: (key: string) => boolean;
  onMake: (key: string, label: string, type: MergeFieldType) => void;
}

function NewField({ taken, onMake }: NewProps) {
  const [label, setLabel] = useState("");
  const [type, setType] = useState<MergeFieldType>("text");
  const key = keyOf(label);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onMake(key, label.trim(), type);
    setLabel("");
  };
  return (
    <form onSubmit={submit} className={classes.adding}>
      <TextInput
        label="New field"
        placeholder="First name"
        maxLength={120}
        value={label}
        onChange={(e) => setLabel(e.currentTarget.value)}
        error={taken(key) ? "There is one of that name." : label && !key ? "The name needs a letter." : undefined}
      />
      <NativeSelect
        label="Type"
        value={type}
        onChange={(e) => setType(e.currentTarget.value as MergeFieldType)}
        data={types.map((t) => ({ value: t.type, label: t.label }))}
      />
      <Button type="submit" variant="default" disabled={!key || taken(key)}>
        Add
      </Button>
    </form>
  );
}
