import { NativeSelect } from "@mantine/core";
import type { StyleEntry } from "../../api/types";
import { useRoom } from "./RoomContext";
import { useWritten } from "./useWritten";
import classes from "./ValueList.module.css";
import { fits, referenceOf } from "./variableTypes";
import { chainOf } from "./WhyPanel";

type Property = StyleEntry["properties"][number];

/** One property of a global style: a variable, one of its choices or, if the lead insists, a plain value. */
export function PropertyEditor({ name, property }: { name: string; property: Property }) {
  const { style, edit, fault } = useRoom();
  const written = property.written ?? "";
  const literal = written !== "" && !referenceOf(written) && property.choices.length === 0;
  const target = `styles/${name}/${property.name}`;
  const set = (value: string | null) => edit({ kind: "set-style", style: name, property: property.name, value }, target);
  const [value, setValue] = useWritten(written, (next) => next.trim() && set(next.trim()));
  const variables = style.variables.filter((v) => fits(v.variable.type, property.type));
  const unset = property.sameAs
    ? `as ${property.sameAs}: ${property.resolved}`
    : property.inherited
      ? `as ${style.parentName} has it`
      : `as usual: ${property.resolved}`;
  return (
    <div className={classes.property} id={`property-${name}-${property.name}`}>
      <NativeSelect
        label={property.label}
        description={chainOf(property)}
        disabled={!style.mayEdit}
        value={literal ? "=" : written}
        onChange={(e) => {
          const chosen = e.currentTarget.value;
          set(chosen === "" ? null : chosen === "=" ? property.resolved : chosen);
        }}
        data={[
          { value: "", label: unset },
          ...(property.choices.length > 0
            ? property.choices.map((choice) => ({ value: choice, label: choice }))
            : [
                ...variables.map((v) => ({ value: `{${v.variable.key}}`, label: v.variable.label })),
                { value: "=", label: "a plain value" },
              ]),
        ]}
      />
      {literal && (
        <label className={classes.value}>
          {property.type === "colour" && <span className={classes.chip} style={{ background: property.resolved }} aria-hidden="true" />}
          <input
            aria-label={`${property.label}, plain value`}
            value={value}
            disabled={!style.mayEdit}
            spellCheck={false}
            onChange={(e) => setValue(e.currentTarget.value)}
          />
          {property.type === "size" && <span className="soft">px</span>}
          <span className={classes.flag}>▲ not a variable</span>
        </label>
      )}
      {fault?.target === target && (
        <p role="alert" className={classes.fault}>
          ■ {fault.message}
        </p>
      )}
      {style.parent && property.written != null && style.mayEdit && (
        <p className={classes.inherited}>
          Its own.{" "}
          <button type="button" className="plain underlined" onClick={() => set(null)}>
            Put it back
          </button>
        </p>
      )}
    </div>
  );
}
