import { ColorPicker, NativeSelect } from "@mantine/core";
import { useEffect, useState } from "react";
import type { BrandVariable, Edit, HouseStyle, VariableEntry } from "../../api/types";
import classes from "./ValueList.module.css";

interface Props {
  style: HouseStyle;
  entry: VariableEntry;
  edit: (edit: Edit, target: string) => void;
}

/** Changes one brand variable: a value of its own, or another variable to follow. */
export function VariableEditor({ style, entry, edit }: Props) {
  const { variable } = entry;
  const follows = variable.value.startsWith("{") ? variable.value.slice(1, -1) : "";
  const others = style.variables.filter((v) => v.variable.type === variable.type && v.variable.key !== variable.key);
  const set = (change: Partial<BrandVariable>) =>
    edit({ kind: "set-variable", variable: { ...variable, ...change } }, `variables/${variable.key}`);

  return (
    <div className={classes.editor}>
      <NativeSelect
        label="Follows"
        disabled={!style.mayEdit}
        value={follows}
        onChange={(e) => set({ value: e.currentTarget.value ? `{${e.currentTarget.value}}` : entry.resolved })}
        data={[
          { value: "", label: "nothing: a value of its own" },
          ...others.map((o) => ({ value: o.variable.key, label: o.variable.label })),
        ]}
      />
      {!follows && (
        <Value
          label={variable.label}
          type={variable.type}
          value={variable.value}
          disabled={!style.mayEdit}
          onChange={(value) => set({ value })}
        />
      )}
      {variable.type === "colour" && (
        <Value
          label={`${variable.label} in dark mode`}
          type="text"
          value={variable.dark ?? ""}
          placeholder={entry.resolved}
          disabled={!style.mayEdit}
          onChange={(dark) => set({ dark: dark || null })}
        />
      )}
    </div>
  );
}

interface ValueProps {
  label: string;
  type: BrandVariable["type"];
  value: string;
  placeholder?: string;
  disabled: boolean;
  onChange: (value: string) => void;
}

const hex = /^#([0-9a-f]{3}|[0-9a-f]{6})$/i;

function Value({ label, type, value, placeholder, disabled, onChange }: ValueProps) {
  const [written, setWritten] = useState(value);
  useEffect(() => setWritten(value), [value]);
  const write = (next: string) => {
    setWritten(next);
    // A colour half written is not sent; everything else is judged by the server.
    if (!label.includes("dark") && type !== "colour" ? next.trim() : next === "" || hex.test(next)) {
      onChange(next.trim());
    }
  };
  return (
    <div>
      {type === "colour" && !disabled && (
        <ColorPicker
          fullWidth
          size="sm"
          format="hex"
          value={written}
          onChange={write}
          saturationLabel={`${label}, saturation`}
          hueLabel={`${label}, hue`}
        />
      )}
      <label className={classes.value}>
        <span className="only-heard">{label}</span>
        <input
          value={written}
          placeholder={placeholder}
          disabled={disabled}
          spellCheck={false}
          onChange={(e) => write(e.currentTarget.value)}
        />
        {label.includes("dark") && <span className="soft">in dark mode</span>}
      </label>
    </div>
  );
}
