import { ColorPicker, TextInput } from "@mantine/core";
import { memo } from "react";
import type { BrandVariable } from "../../api/types";
import { PictureChoice } from "./PictureChoice";
import classes from "./ValueList.module.css";
import { hex } from "./variableTypes";

interface Props {
  label: string;
  type: BrandVariable["type"];
  value: string;
  placeholder?: string;
  /** A line to write in, without the picker. */
  plain?: boolean;
  disabled: boolean;
  /** The same from one drawing to the next: a colour that is dragged is drawn once for each move, and not again with each answer. */
  onChange: (value: string) => void;
}

/** A value of any type: a line to write it in, with a picker for colours and the library for pictures. */
export const ValueInput = memo(function ValueInput({ label, type, value, placeholder, plain, disabled, onChange }: Props) {
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
          value={value}
          onChange={onChange}
          saturationLabel={`${label}, saturation`}
          hueLabel={`${label}, hue`}
        />
      )}
      <div className={classes.value}>
        <span className={plain ? classes.beside : "only-heard"}>{plain ? "Dark mode" : label}</span>
        {type === "colour" && (
          <span className={classes.chip} style={{ background: hex.test(value) ? value : placeholder }} aria-hidden="true" />
        )}
        <TextInput
          aria-label={label}
          value={value}
          placeholder={placeholder}
          disabled={disabled}
          spellCheck={false}
          inputMode={type === "size" || type === "number" || type === "weight" ? "decimal" : undefined}
          onChange={(e) => onChange(e.currentTarget.value)}
        />
        {type === "size" && <span className="soft">px</span>}
      </div>
      {type === "colour" && value !== "" && !hex.test(value) && <p className={classes.hint}>Write it as #rrggbb.</p>}
    </div>
  );
});
