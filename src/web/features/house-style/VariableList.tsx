import { useState } from "react";
import type { Edit, HouseStyle, VariableEntry } from "../../api/types";
import classes from "./ValueList.module.css";
import { VariableEditor } from "./VariableEditor";

const groups = [
  { name: "Colours", types: ["colour"] },
  { name: "Letters and sizes", types: ["font", "number"] },
  { name: "Words and links", types: ["text", "link"] },
];

/** Brand variables by kind, each with how many places follow it. */
export function VariableList({ style, edit }: { style: HouseStyle; edit: (edit: Edit, target: string) => void }) {
  const [open, setOpen] = useState<string>();
  return groups.map((group) => {
    const variables = style.variables.filter((v) => group.types.includes(v.variable.type));
    return (
      <section key={group.name} className={classes.group}>
        <h2>
          {group.name} <span>{variables.length}</span>
        </h2>
        {variables.map((entry) => (
          <div key={entry.variable.key}>
            <button
              type="button"
              className={`plain ${classes.entry}`}
              aria-expanded={open === entry.variable.key}
              onClick={() => setOpen(open === entry.variable.key ? undefined : entry.variable.key)}
            >
              <Sample entry={entry} />
              <span className={classes.name}>
                {entry.variable.label}
                {entry.changed && <i> changed</i>}
                {!entry.own && <i> inherited</i>}
              </span>
              <span className={classes.figure}>{entry.variable.type === "colour" ? places(entry.places) : entry.resolved}</span>
            </button>
            {open === entry.variable.key && <VariableEditor style={style} entry={entry} edit={edit} />}
          </div>
        ))}
      </section>
    );
  });
}

const places = (count: number) => (count === 1 ? "1 place" : `${count} places`);

function Sample({ entry }: { entry: VariableEntry }) {
  switch (entry.variable.type) {
    case "colour":
      return <span className={classes.swatch} style={{ background: entry.resolved }} />;
    case "font":
      return (
        <span className={classes.letters} style={{ fontFamily: entry.resolved }} aria-hidden="true">
          Aa
        </span>
      );
    default:
      return (
        <span className={classes.sign} aria-hidden="true">
          {{ number: "↔", text: "¶", link: "↗" }[entry.variable.type]}
        </span>
      );
  }
}
