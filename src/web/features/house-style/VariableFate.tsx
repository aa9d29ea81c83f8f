import { NativeSelect, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import type { VariableEntry } from "../../api/types";
import { useRoom } from "./RoomContext";
import classes from "./ValueList.module.css";
import { places } from "./VariableList";
import { fits } from "./variableTypes";

/** Where a variable stands, what its key is, and how it goes: whatever refers to it is led on. */
export function VariableFate({ entry }: { entry: VariableEntry }) {
  const { style, edit, show } = useRoom();
  const { variable } = entry;
  const own = style.variables.filter((v) => v.own);
  const at = own.findIndex((v) => v.variable.key === variable.key);
  const target = `variables/${variable.key}`;
  const [key, setKey] = useState(variable.key);
  const heirs = own.filter((v) => v.variable.key !== variable.key && fits(v.variable.type, variable.type));
  const move = (to: number) => edit({ kind: "move-variable", key: variable.key, at: to }, "");
  const rename = (event: FormEvent) => {
    event.preventDefault();
    if (key !== variable.key) {
      edit({ kind: "rename-variable", key: variable.key, to: key, forget: false }, target);
      show({ tab: "variables", variable: key });
    }
  };
  return (
    <>
      <p className={classes.arrange}>
        <button type="button" className="plain underlined" disabled={at <= 0} onClick={() => move(at - 1)}>
          Move up
        </button>
        <button type="button" className="plain underlined" disabled={at < 0 || at === own.length - 1} onClick={() => move(at + 1)}>
          Move down
        </button>
      </p>
      <form onSubmit={rename} className={classes.rename}>
        <TextInput
          label="Technical name"
          description="What uses the former technical name still finds it."
          maxLength={60}
          value={key}
          onChange={(e) => setKey(e.currentTarget.value)}
        />
        {key !== variable.key && (
          <button type="submit" className="plain underlined">
            Rename
          </button>
        )}
      </form>
      <NativeSelect
        label="Replace with another variable"
        description={`${places(entry.places)} then follow the other.`}
        value=""
        onChange={(e) => {
          edit({ kind: "replace-variable", key: variable.key, by: e.currentTarget.value }, target);
          show({ tab: "variables", variable: e.currentTarget.value });
        }}
        data={[{ value: "", label: "which?" }, ...heirs.map((h) => ({ value: h.variable.key, label: h.variable.label }))]}
      />
      {!entry.inherited &&
        (entry.places === 0 ? (
          <button
            type="button"
            className={`plain underlined ${classes.remove}`}
            onClick={() => edit({ kind: "remove-variable", key: variable.key }, target)}
          >
            Remove
          </button>
        ) : (
          <p className={classes.hint}>It is used, so it cannot simply go: {places(entry.places)} would have no value.</p>
        ))}
    </>
  );
}
