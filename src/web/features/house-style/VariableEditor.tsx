import { NativeSelect, TextInput } from "@mantine/core";
import { memo, useCallback, useEffect, useRef, useState } from "react";
import type { BrandVariable, VariableEntry } from "../../api/types";
import { useTypedField } from "../../shared/useLiveField";
import { useUnchanged } from "../../shared/useUnchanged";
import { useRoom } from "./RoomContext";
import { ValueInput } from "./ValueInput";
import classes from "./ValueList.module.css";
import { VariableFate } from "./VariableFate";
import { VariableUses } from "./VariableUses";
import { fits, hex, referenceOf } from "./variableTypes";

/** Changes one brand variable: a value of its own, or another variable to follow; its name, group and place. */
export function VariableEditor({ entry }: { entry: VariableEntry }) {
  const { style, edit, fault } = useRoom();
  const target = `variables/${entry.variable.key}`;
  // The whole of it is one place: a colour and a name set one after the other go together.
  const [variable, setVariable] = useTypedField<BrandVariable>(
    entry.variable,
    target,
    (next) => (isWhole(next) ? { kind: "set-variable", variable: kept(next) } : []),
    kept,
  );
  const follows = referenceOf(variable.value);
  const choices = useUnchanged(
    style.variables
      .filter((v) => fits(v.variable.type, variable.type) && v.variable.key !== variable.key)
      .map((v) => ({ value: v.variable.key, label: v.variable.label })),
  );
  const set = useCallback((change: Partial<BrandVariable>) => setVariable((now) => ({ ...now, ...change })), [setVariable]);
  const setValue = useCallback((value: string) => set({ value }), [set]);
  const setDark = useCallback((dark: string) => set({ dark: dark || null }), [set]);
  // Its own value again is what it came to by following.
  const cameTo = follows ? entry.resolved : undefined;
  const follow = useCallback(
    (key: string) => setVariable((now) => ({ ...now, value: key ? `{${key}}` : (cameTo ?? now.value) })),
    [setVariable, cameTo],
  );
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
      {!follows && <ValueInput label={variable.label} type={variable.type} value={variable.value} disabled={locked} onChange={setValue} />}
      {variable.type === "colour" && (
        <ValueInput
          label={`${variable.label} in dark mode`}
          type="colour"
          value={variable.dark ?? ""}
          placeholder={entry.resolvedDark}
          plain
          disabled={locked}
          onChange={setDark}
        />
      )}
      <FollowChoice follows={follows} choices={choices} disabled={locked} onChange={follow} />
      {entry.inherited && entry.own && !locked && (
        <p className={classes.inherited}>
          {style.parentName} says {say(entry.inherited, style.variables)}.{" "}
          <button type="button" className="plain underlined" onClick={() => edit({ kind: "remove-variable", key: variable.key }, target)}>
            Use the inherited value
          </button>
        </p>
      )}
      <VariableUses entry={entry} />
      <button type="button" className="plain underlined" aria-expanded={more} onClick={() => setMore(!more)}>
        Name, group and position
      </button>
      {more && <Particulars entry={entry} variable={variable} set={set} />}
    </div>
  );
}

interface FollowProps {
  follows: string;
  choices: { value: string; label: string }[];
  disabled: boolean;
  onChange: (key: string) => void;
}

// Costly to draw, and the same with each move while a colour is dragged.
const FollowChoice = memo(function FollowChoice({ follows, choices, disabled, onChange }: FollowProps) {
  return (
    <NativeSelect
      label="Same as"
      disabled={disabled}
      value={follows}
      data={[{ value: "", label: "No other: its own value" }, ...choices]}
      onChange={(e) => onChange(e.currentTarget.value)}
    />
  );
});

// Half a value is not sent; what is set beside it waits with it.
const isValue = (type: BrandVariable["type"], value: string) =>
  referenceOf(value) !== "" || (type === "colour" ? hex.test(value.trim()) : type === "text" || value.trim() !== "");
const isWhole = (variable: BrandVariable) =>
  variable.label.trim() !== "" && isValue(variable.type, variable.value) && (!variable.dark || isValue(variable.type, variable.dark));

const kept = (variable: BrandVariable): BrandVariable => ({
  ...variable,
  label: variable.label.trim(),
  group: variable.group?.trim(),
  description: variable.description?.trim(),
  value: variable.value.trim(),
});

interface ParticularsProps {
  entry: VariableEntry;
  variable: BrandVariable;
  set: (change: Partial<BrandVariable>) => void;
}

function Particulars({ entry, variable, set }: ParticularsProps) {
  const { style } = useRoom();
  const locked = !style.mayEdit;
  return (
    <div className={classes.more}>
      <TextInput
        label="Name"
        disabled={locked}
        maxLength={80}
        value={variable.label}
        onChange={(e) => set({ label: e.currentTarget.value })}
      />
      <TextInput
        label="Group"
        disabled={locked}
        maxLength={60}
        list="variable-groups"
        value={variable.group ?? ""}
        onChange={(e) => set({ group: e.currentTarget.value })}
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
        value={variable.description ?? ""}
        onChange={(e) => set({ description: e.currentTarget.value })}
      />
      {!locked && entry.own && <VariableFate entry={entry} />}
    </div>
  );
}

function say(variable: BrandVariable, all: VariableEntry[]) {
  const key = referenceOf(variable.value);
  return key ? (all.find((v) => v.variable.key === key)?.variable.label ?? key) : variable.value || "nothing";
}
