import { ColorPicker } from "@mantine/core";
import { useEffect, useState } from "react";
import type { BrandVariable } from "../../api/types";
import { PictureChoice } from "./PictureChoice";
import classes from "./ValueList.module.css";

interface Props {
  label: string;
  type: BrandVariable["type"];
  value: string;
  placeholder?: string;
  /** A line to write in, without the picker. */
  plain?: boolean;
  disabled: boolean;
  onChange: (value: string) => void;
}

const hex = /^#([0-9a-f]{3}|[0-9a-f]{6})$/i;

/** A value of any type: a line to write it in, with a picker for colours and the library for pictures. */
export function ValueInput({ label, type, value, placeholder, plain, disabled, onChange }: Props) {
  const [written, setWritten] = useState(value);
  useEffect(() => setWritten((now) => (now.trim() === value ? now : value)), [value]);
  const write = (next: string) => {
    setWritten(next);
    // A colour half written is not sent; everything else is judged by the server.
    if (type !== "colour" ? next.trim() || type === "text" : (plain && next === "") || hex.test(next)) {
      onChange(next.trim());
    }
  };
  if (type === "picture") {
    return <PictureChoice label={label} value={value} disabled={disabled} onChange={onChange} />;
  }
  return (
    <div>
      {type === "colour" && !plain && !disabled && (
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
        <span className={plain ? classes.beside : "only-heard"}>{plain ? "Dark mode" : label}</span>
        {type === "colour" && (
          <span className={classes.chip} style={{ background: hex.test(written) ? written : placeholder }} aria-hidden="true" />
        )}
        <input
          aria-label={label}
          value={written}
          placeholder={placeholder}
          disabled={disabled}
          spellCheck={false}
          inputMode={type === "size" || type === "number" || type === "weight" ? "decimal" : undefined}
          onChange={(e) => write(e.currentTarget.value)}
        />
        {type === "size" && <span className="soft">px</span>}
      </label>
      {type === "colour" && written !== "" && !hex.test(written) && <p className={classes.hint}>Write it as #rrggbb.</p>}
    </div>
  );
}
