import { NativeSelect, TextInput } from "@mantine/core";
import type { StyleEntry } from "../../api/types";
import { trimmed, useTypedField } from "../../shared/useLiveField";
import { useRoom } from "./RoomContext";
import classes from "./ValueList.module.css";
import { fits, referenceOf } from "./variableTypes";
import { chainOf } from "./WhyPanel";

type Property = StyleEntry["properties"][number];

/** One property of a global style: a variable, one of its choices or, if the lead insists, a plain value. */
export function PropertyEditor({ name, property }: { name: string; property: Property }) {
  const { style, fault } = useRoom();
  const target = `styles/${name}/${property.name}`;
  // Empty: what the layer above says. A blank while a plain value is written is nothing yet.
  const [written, setWritten] = useTypedField(
    property.written ?? "",
    target,
    (next) =>
      next !== "" && next.trim() === "" ? [] : { kind: "set-style", style: name, property: property.name, value: next.trim() || null },
    trimmed,
  );
  const literal = written !== "" && !referenceOf(written) && property.choices.length === 0;
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
          setWritten(chosen === "=" ? property.resolved : chosen);
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
        <div className={classes.value}>
          {property.type === "colour" && <span className={classes.chip} style={{ background: property.resolved }} aria-hidden="true" />}
          <TextInput
            aria-label={`${property.label}, plain value`}
            value={written}
            disabled={!style.mayEdit}
            spellCheck={false}
            onChange={(e) => setWritten(e.currentTarget.value || " ")}
          />
          {property.type === "size" && <span className="soft">px</span>}
          <span className={classes.flag}>▲ not a variable</span>
        </div>
      )}
      {fault?.target === target && (
        <p role="alert" className={classes.fault}>
          ■ {fault.message}
        </p>
      )}
      {style.parent && written !== "" && style.mayEdit && (
        <p className={classes.inherited}>
          Its own.{" "}
          <button type="button" className="plain underlined" onClick={() => setWritten("")}>
            Use the inherited value
          </button>
        </p>
      )}
    </div>
  );
}
