import { memo, useState } from "react";
import type { VariableEntry } from "../../api/types";
import { countOf } from "../../shared/format";
import { NewVariable } from "./NewVariable";
import { type Open, useRoom } from "./RoomContext";
import classes from "./ValueList.module.css";
import { VariableEditor } from "./VariableEditor";
import { groupOf } from "./variableTypes";

/** Brand variables by group, each with how many places follow it; a sub-brand's own apart from what it inherits. */
export function VariableList() {
  const { style, open } = useRoom();
  const [adding, setAdding] = useState(false);
  const placeOf = usePlaces(style.variables, open.variable);
  const own = style.parent ? style.variables.filter((v) => placeOf(v).own) : [];
  const rest = style.parent ? style.variables.filter((v) => !placeOf(v).own) : style.variables;
  const groups = [...new Set(rest.map((v) => placeOf(v).group))];
  return (
    <>
      {style.parent && (
        <Group name={`Its own, over ${style.parentName}`} entries={own}>
          {own.length === 0 && (
            <p className={classes.empty}>Nothing yet: it looks as {style.parentName} does. Open a value below to set it apart.</p>
          )}
        </Group>
      )}
      {groups.map((name) => (
        <Group key={name} name={style.parent ? `${name}, inherited` : name} entries={rest.filter((v) => placeOf(v).group === name)} />
      ))}
      {style.mayEdit && (
        <section className={classes.group}>
          {adding ? (
            <NewVariable onDone={() => setAdding(false)} />
          ) : (
            <button type="button" className={`plain underlined ${classes.add}`} onClick={() => setAdding(true)}>
              Add a variable
            </button>
          )}
        </section>
      )}
    </>
  );
}

/**
 * Where each variable stands: its group, and whether it is the sub-brand's own. The one that is open stays where it was opened: moved
 * under the hand that sets it, it would lose the focus, and what is typed next.
 */
function usePlaces(variables: VariableEntry[], open?: string) {
  const now = ({ own, variable }: VariableEntry) => ({ own, group: groupOf(variable) });
  const entry = variables.find((v) => v.variable.key === open);
  const [opened, setOpened] = useState({ key: open, place: entry && now(entry) });
  if (opened.key !== open || (entry && !opened.place)) {
    setOpened({ key: open, place: entry && now(entry) });
  }
  return (one: VariableEntry) => (one.variable.key === opened.key && opened.place) || now(one);
}

function Group({ name, entries, children }: { name: string; entries: VariableEntry[]; children?: React.ReactNode }) {
  const { style, open, show } = useRoom();
  return (
    <section className={classes.group} aria-label={name}>
      <h2>
        {name} <span>{entries.length}</span>
      </h2>
      {entries.map((entry) => {
        const isOpen = open.variable === entry.variable.key;
        return (
          <div key={entry.variable.key}>
            <EntryLine entry={entry} isOpen={isOpen} isNew={style.release === 0} show={show} />
            {isOpen && <VariableEditor key={entry.variable.key} entry={entry} />}
          </div>
        );
      })}
      {children}
    </section>
  );
}

// A colour is dragged through many values: only the lines of what it changes are drawn anew.
const EntryLine = memo(function EntryLine(line: { entry: VariableEntry; isOpen: boolean; isNew: boolean; show: (open: Open) => void }) {
  const { entry, isOpen, isNew, show } = line;
  const { key, label, type } = entry.variable;
  return (
    <button
      type="button"
      className={`plain ${classes.entry}`}
      aria-expanded={isOpen}
      onClick={() => show({ tab: "variables", variable: isOpen ? undefined : key })}
    >
      <Sample entry={entry} />
      <span className={classes.name}>
        {label}
        {entry.changed && !isNew && <i> changed</i>}
      </span>
      <span className={classes.figure}>
        {type === "colour" ? places(entry.places) : type === "picture" && entry.resolved ? "chosen" : entry.resolved || "none yet"}
      </span>
    </button>
  );
});

export const places = (count: number) => countOf(count, "place");

function Sample({ entry }: { entry: VariableEntry }) {
  switch (entry.variable.type) {
    case "colour":
      return (
        <span className={classes.swatch} style={{ background: entry.resolved }}>
          {entry.resolvedDark !== entry.resolved && <span style={{ background: entry.resolvedDark }} />}
        </span>
      );
    case "font":
      return (
        <span className={classes.letters} style={{ fontFamily: entry.resolved }} aria-hidden="true">
          Aa
        </span>
      );
    default:
      return (
        <span className={classes.sign} aria-hidden="true">
          {{ size: "↔", number: "#", weight: "B", text: "¶", link: "↗", picture: "▣" }[entry.variable.type]}
        </span>
      );
  }
}
