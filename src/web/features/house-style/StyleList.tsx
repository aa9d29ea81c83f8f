import { NativeSelect } from "@mantine/core";
import { useState } from "react";
import type { Edit, HouseStyle, StyleEntry } from "../../api/types";
import classes from "./ValueList.module.css";

type Property = StyleEntry["properties"][number];

interface Props {
  style: HouseStyle;
  edit: (edit: Edit, target: string) => void;
}

/** Global styles, each property written in a brand variable or, flagged, as a plain value. */
export function StyleList({ style, edit }: Props) {
  const [open, setOpen] = useState("primary");
  return (
    <section className={classes.group}>
      {style.styles.map((entry) => (
        <div key={entry.name}>
          <button
            type="button"
            className={`plain ${classes.entry}`}
            aria-expanded={open === entry.name}
            onClick={() => setOpen(open === entry.name ? "" : entry.name)}
          >
            <span className={classes.name}>
              {entry.label}
              {entry.properties.some((p) => p.changed) && <i> changed</i>}
            </span>
            <span className={classes.figure}>{entry.properties.length} properties</span>
          </button>
          {open === entry.name && (
            <div className={classes.editor}>
              {entry.properties.map((property) => (
                <PropertyEditor key={property.name} style={style} name={entry.name} property={property} edit={edit} />
              ))}
            </div>
          )}
        </div>
      ))}
    </section>
  );
}

function PropertyEditor({ style, name, property, edit }: Props & { name: string; property: Property }) {
  const variables = style.variables.filter((v) => v.variable.type === property.type);
  const written = property.written ?? "";
  const literal = written !== "" && !written.startsWith("{");
  const set = (value: string | null) =>
    edit({ kind: "set-style", style: name, property: property.name, value }, `styles/${name}/${property.name}`);
  return (
    <div className={classes.property}>
      <NativeSelect
        label={property.label}
        description={why(property)}
        disabled={!style.mayEdit}
        value={literal ? "=" : written}
        onChange={(e) =>
          set(e.currentTarget.value === "" ? null : e.currentTarget.value === "=" ? property.resolved : e.currentTarget.value)
        }
        data={[
          { value: "", label: style.parent ? "as the parent has it" : `usual: ${property.resolved}` },
          ...variables.map((v) => ({ value: `{${v.variable.key}}`, label: v.variable.label })),
          { value: "=", label: "a plain value" },
        ]}
      />
      {literal && (
        <label className={classes.value}>
          <span className="only-heard">{property.label}, plain value</span>
          <input
            key={written}
            defaultValue={written}
            disabled={!style.mayEdit}
            onBlur={(e) => e.currentTarget.value !== written && set(e.currentTarget.value)}
            onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
          />
          {property.literal && <span className={classes.flag}>▲ not a variable</span>}
        </label>
      )}
    </div>
  );
}

/** The chain of layers behind a value, in one line. */
function why(property: Property): string {
  const layers = property.layers.map((l) => l.layer).join(", then ");
  const through = property.through.length > 0 ? ` through ${property.through.join(", ")}` : "";
  return `${property.resolved}${layers ? `, by ${layers}` : ", as usual"}${through}`;
}
