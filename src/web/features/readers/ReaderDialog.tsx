import { Button, Modal, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import type { MergeField, SampleReader } from "../../api/types";
import { hasChoices, types } from "./fieldTypes";
import classes from "./ReadersRoom.module.css";

interface Props {
  reader: SampleReader;
  fields: MergeField[];
  onClose: () => void;
}

/** One sample reader by hand. */
export default function ReaderDialog({ reader, fields, onClose }: Props) {
  const [name, setName] = useState(reader.name);
  const [values, setValues] = useState<Record<string, string>>(reader.values);
  const put = useMutation({
    mutationFn: () => ask(api.PUT("/api/sample-readers/{id}", { params: { path: { id: reader.id } }, body: { name, values } })),
    onSuccess: onClose,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    put.mutate();
  };
  return (
    <Modal opened onClose={onClose} title={reader.name || "A sample reader"} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        <TextInput
          label="Name of the sample"
          placeholder="A member in the valley"
          data-autofocus
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        {fields.map((field) => (
          <TextInput
            key={field.key}
            label={field.label}
            description={
              hasChoices(field.type)
                ? `${field.type === "tags" ? "Any of" : "One of"} ${field.choices?.join(", ")}${field.type === "tags" ? ", parted by ;" : ""}`
                : undefined
            }
            placeholder={types.find((t) => t.type === field.type)?.sample || "not known"}
            value={values[field.key] ?? ""}
            onChange={(e) => {
              const typed = e.currentTarget.value;
              setValues((now) => ({ ...now, [field.key]: typed }));
            }}
          />
        ))}
        {put.error && <p role="alert">■ {put.error.message}</p>}
        <Button type="submit" loading={put.isPending} disabled={!name.trim()}>
          Keep it
        </Button>
      </form>
    </Modal>
  );
}
