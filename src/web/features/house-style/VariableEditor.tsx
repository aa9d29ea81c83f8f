import { TextInput } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import type { BrandVariable, VariableEntry } from "../../api/types";
import { useRoom } from "./RoomContext";
import { useWritten } from "./useWritten";
import { ValueInput } from "./ValueInput";
import classes from "./ValueList.module.css";
import { VariableFate } from "./VariableFate";
import { VariableUses } from "./VariableUses";
import { fits, referenceOf } from "./variableTypes";

/** Changes one brand variable: a value of its own, or another variable to follow; its name, group and place. */
export function VariableEditor({ entry }: { entry: VariableEntry }) {
  const { style, edit, fault } = useRoom();
  const { variable } = entry;
  const target = `variables/${variable.key}`;
  const follows = referenceOf(variable.value);
  const others = style.variables.filter((v) => fits(v.variable.type, variable.type) && v.variable.key !== variable.key);
  const set = (change: Partial<BrandVariable>) => edit({ kind: "set-variable", variable: { ...variable, ...change } }, target);
  const [more, setMore] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  // One that is added, or come to from elsewhere, may stand below what is seen.
  useEffect(() => {
    box.current?.scrollIntoView({ block: "nearest" });
  }, []);
  const locked = !style.mayEdit;

  return (
    <div className={classes.editor} ref={box}>
      {fault?.target === target && (
        <p role="alert" className={classes.fault}>
          ■ {fault.message}
        </p>
      )}
      {!follows && (
        <ValueInput
          label={variable.label}
          type={variable.type}
          value={variable.value}
          disabled={locked}
          onChange={(value) => set({ value })}
        />
      )}
      {variable.type === "colour" && (
        <ValueInput
          label={`${variable.label} in dark mode`}
          type="colour"
          value={variable.dark ?? ""}
          placeholder={entry.resolvedDark}
          plain
          disabled={locked}
          onChange={(dark) => set({ dark: dark || null })}
        />
      )}
      <label className={classes.choice}>
        Follows
        <select
          disabled={locked}
          value={follows}
          onChange={(e) => set({ value: e.currentTarget.value ? `{${e.currentTarget.value}}` : entry.resolved })}
        >
          <option value="">nothing: a value of its own</option>
          {others.map((o) => (
            <option key={o.variable.key} value={o.variable.key}>
              {o.variable.label}
            </option>
          ))}
        </select>
      </label>
      {entry.inherited && entry.own && !locked && (
        <p className={classes.inherited}>
          {style.parentName} says {say(entry.inherited, style.variables)}.{" "}
          <button type="button" className="plain underlined" onClick={() => edit({ kind: "remove-variable", key: variable.key }, target)}>
            Put it back
          </button>
        </p>
      )}
      <VariableUses entry={entry} />
      <button type="button" className="plain underlined" aria-expanded={more} onClick={() => setMore(!more)}>
        Name, group and place
      </button>
      {more && <Particulars entry={entry} set={set} />}
    </div>
  );
}

function Particulars({ entry, set }: { entry: VariableEntry; set: (change: Partial<BrandVariable>) => void }) {
  const { style } = useRoom();
  const { variable } = entry;
  const locked = !style.mayEdit;
  const [label, setLabel] = useWritten(variable.label, (next) => next.trim() && set({ label: next.trim() }));
  const [group, setGroup] = useWritten(variable.group ?? "", (next) => set({ group: next.trim() }));
  const [description, setDescription] = useWritten(variable.description ?? "", (next) => set({ description: next.trim() }));
  return (
    <div className={classes.more}>
      <TextInput label="Name" disabled={locked} maxLength={80} value={label} onChange={(e) => setLabel(e.currentTarget.value)} />
      <TextInput
        label="Group"
        disabled={locked}
        maxLength={60}
        list="variable-groups"
        value={group}
        onChange={(e) => setGroup(e.currentTarget.value)}
      />
      <datalist id="variable-groups">
        {[...new Set(style.variables.map((v) => v.variable.group).filter(Boolean))].map((g) => (
          <option key={g} value={g} />
        ))}
      </datalist>
      <TextInput
        label="What it is for"
        disabled={locked}
        maxLength={300}
        value={description}
        onChange={(e) => setDescription(e.currentTarget.value)}
      />
      {!locked && entry.own && <VariableFate entry={entry} />}
    </div>
  );
}

function say(variable: BrandVariable, all: VariableEntry[]) {
  const key = referenceOf(variable.value);
  return key ? (all.find((v) => v.variable.key === key)?.variable.label ?? key) : variable.value || "nothing";
}
