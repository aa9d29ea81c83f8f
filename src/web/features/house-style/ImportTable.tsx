import { Button, Checkbox, NativeSelect } from "@mantine/core";
import { useState } from "react";
import type { Edit, ImportEntry } from "../../api/types";
import { countOf } from "../../shared/format";
import classes from "./dialogs.module.css";
import { useRoom } from "./RoomContext";
import { fits, referenceOf } from "./variableTypes";

interface Props {
  plan: ImportEntry[];
  onDone: () => void;
  onBack: () => void;
}

/** What an import adds, changes and leaves, line by line; what it dresses can be sent elsewhere or left. */
export function ImportTable({ plan, onDone, onBack }: Props) {
  const { style, editAll } = useRoom();
  const doing = plan.filter((p) => p.edit);
  const [left, setLeft] = useState(new Set<number>());
  const [targets, setTargets] = useState<Record<number, string>>({});
  const [more, setMore] = useState<{ value: string; target: string }[]>([]);
  const same = plan.filter((p) => p.action === "same").length;
  const refused = plan.filter((p) => p.action === "left");
  const variables = doing.map((entry, i) => ({ entry, i })).filter(({ entry }) => entry.edit?.kind === "set-variable");
  const styles = doing.map((entry, i) => ({ entry, i })).filter(({ entry }) => entry.edit?.kind === "set-style");
  const properties = style.styles.flatMap((s) =>
    s.properties.map((p) => ({
      id: `${s.name}/${p.name}`,
      label: `${s.label}, ${p.label.toLowerCase()}`,
      type: p.type,
      choice: p.choices.length > 0,
    })),
  );

  // A style that is written in a variable which is left would have nothing to refer to.
  const missing = new Set(variables.filter(({ i, entry }) => left.has(i) && entry.action === "added").map(({ entry }) => entry.target));
  const stays = ({ entry, i }: { entry: ImportEntry; i: number }) =>
    left.has(i) || (entry.edit?.kind === "set-style" && missing.has(referenceOf(entry.after ?? "")));
  const edits: Edit[] = [
    ...[...variables, ...styles].filter((one) => !stays(one)).map(({ entry, i }) => aimed(entry.edit as Edit, targets[i])),
    ...more
      .filter((m) => m.value && m.target)
      .map((m) => aimed({ kind: "set-style", style: "", property: "", value: `{${m.value}}` }, m.target)),
  ];
  const toggle = (i: number) => setLeft(new Set(left.has(i) ? [...left].filter((x) => x !== i) : [...left, i]));
  const apply = () => {
    editAll(edits, "");
    onDone();
  };
  const keys = variables
    .filter((one) => !stays(one))
    .map(({ entry }) => ({ key: entry.target ?? "", label: entry.name, type: entry.type }));

  return (
    <>
      <p>
        {count(variables, "added")} variables are added and {count(variables, "changed")} changed; {styles.length} style properties are set.
        {same > 0 && ` ${same} say what holds already.`}
        {refused.length > 0 && ` ${refused.length} cannot be taken over.`}
      </p>
      <div className={classes.plan}>
        <table>
          <thead>
            <tr>
              <th scope="col">Import</th>
              <th scope="col">In the file</th>
              <th scope="col">Here</th>
              <th scope="col">Now</th>
              <th scope="col">Then</th>
            </tr>
          </thead>
          <tbody>
            {[...variables, ...styles].map((one) => (
              <tr key={one.i} data-left={stays(one)}>
                <td>
                  <Checkbox aria-label={`Take ${one.entry.place}`} checked={!stays(one)} onChange={() => toggle(one.i)} />
                </td>
                <td>{one.entry.place}</td>
                <td>
                  {one.entry.edit?.kind === "set-style" ? (
                    <NativeSelect
                      aria-label={`What ${one.entry.place} styles`}
                      value={targets[one.i] ?? one.entry.target ?? ""}
                      data={properties
                        .filter((p) => p.id === one.entry.target || (p.type === one.entry.type && !p.choice))
                        .map((p) => ({ value: p.id, label: p.label }))}
                      onChange={(e) => setTargets({ ...targets, [one.i]: e.currentTarget.value })}
                    />
                  ) : (
                    <>
                      {one.entry.name} <span className="soft">{one.entry.type}</span>
                    </>
                  )}
                </td>
                <td className="soft">
                  {one.entry.action === "added" && one.entry.edit?.kind === "set-variable" ? "new" : one.entry.before}
                </td>
                <td>
                  {one.entry.shown?.startsWith("#") && (
                    <span className={classes.chip} style={{ background: one.entry.shown }} aria-hidden="true" />
                  )}
                  {one.entry.after}
                </td>
              </tr>
            ))}
            {more.map((m, at) => {
              const type = keys.find((k) => k.key === m.value)?.type;
              const set = (change: Partial<typeof m>) => setMore(more.map((x, i) => (i === at ? { ...x, ...change } : x)));
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: lines that are added have no other identity than their place.
                <tr key={`more-${at}`}>
                  <td />
                  <td>
                    <NativeSelect
                      aria-label="Variable"
                      value={m.value}
                      data={[{ value: "", label: "which variable?" }, ...keys.map((k) => ({ value: k.key, label: k.label }))]}
                      onChange={(e) => set({ value: e.currentTarget.value, target: "" })}
                    />
                  </td>
                  <td colSpan={3}>
                    <NativeSelect
                      aria-label="Style property"
                      value={m.target}
                      data={[
                        { value: "", label: "which style property?" },
                        ...properties.filter((p) => type && !p.choice && fits(type, p.type)).map((p) => ({ value: p.id, label: p.label })),
                      ]}
                      onChange={(e) => set({ target: e.currentTarget.value })}
                    />
                  </td>
                </tr>
              );
            })}
            {refused.map((entry) => (
              <tr key={`left-${entry.place}`} data-left>
                <td>▲</td>
                <td>{entry.place}</td>
                <td colSpan={3}>is left: {entry.reason}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className={classes.row}>
        <Button onClick={apply} disabled={edits.length === 0}>
          {`Import ${countOf(edits.length, "value")}`}
        </Button>
        {keys.length > 0 && (
          <button type="button" className="plain underlined" onClick={() => setMore([...more, { value: "", target: "" }])}>
            Use a variable for another style property
          </button>
        )}
        <button type="button" className="plain underlined" onClick={onBack}>
          Back
        </button>
        <span className="soft">One undo takes it all back.</span>
      </p>
    </>
  );
}

const count = (entries: { entry: ImportEntry }[], action: ImportEntry["action"]) =>
  entries.filter(({ entry }) => entry.action === action).length;

function aimed(edit: Edit, target?: string): Edit {
  const [style, property] = target?.split("/") ?? [];
  return edit.kind === "set-style" && style && property ? { ...edit, style, property } : edit;
}
