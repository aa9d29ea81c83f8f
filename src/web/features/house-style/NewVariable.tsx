import { Button, NativeSelect, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import type { BrandVariable } from "../../api/types";
import { keyOf } from "../../shared/technicalName";
import { useRoom } from "./RoomContext";
import classes from "./ValueList.module.css";
import { startOf, types } from "./variableTypes";

/** Adds a brand variable: a name and a type; its value is set right after. */
export function NewVariable({ onDone }: { onDone?: () => void }) {
  const { style, edit, show } = useRoom();
  const [label, setLabel] = useState("");
  const [type, setType] = useState<BrandVariable["type"]>("colour");
  const key = keyOf(label);
  const taken = style.variables.some((v) => v.variable.key === key);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    edit(
      {
        kind: "set-variable",
        variable: { key, label: label.trim(), type, value: startOf(type), group: "", description: "", formerly: [] },
      },
      `variables/${key}`,
    );
    show({ tab: "variables", variable: key });
    setLabel("");
    onDone?.();
  };
  return (
    <form onSubmit={submit} className={classes.adding}>
      <TextInput
        label="Name"
        placeholder="Engine green"
        maxLength={80}
        value={label}
        onChange={(e) => setLabel(e.currentTarget.value)}
        error={taken ? "There is one of that name." : label && !key ? "The name needs a letter." : undefined}
      />
      <NativeSelect
        label="Type"
        value={type}
        onChange={(e) => setType(e.currentTarget.value as BrandVariable["type"])}
        data={types.map((t) => ({ value: t.type, label: t.label }))}
      />
      <Button type="submit" variant="default" disabled={!key || taken}>
        Add
      </Button>
    </form>
  );
}
