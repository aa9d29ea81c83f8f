import { TextInput } from "@mantine/core";
import classes from "./fields.module.css";

interface Props {
  id: string;
  label: string;
  rows: string[][];
  onChange: (rows: string[][]) => void;
}

/** The words of a table, cell by cell. */
export function CellsField({ id, label, rows, onChange }: Props) {
  const columns = rows[0]?.length ?? 1;
  const set = (row: number, column: number, text: string) =>
    onChange(rows.map((cells, r) => (r === row ? cells.map((cell, c) => (c === column ? text : cell)) : cells)));
  return (
    <fieldset className={classes.links}>
      <legend className={classes.label}>{label}</legend>
      <div className={classes.cells} style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
        {rows.flatMap((cells, r) =>
          cells.map((cell, c) => (
            <TextInput
              // biome-ignore lint/suspicious/noArrayIndexKey: cells have no other identity than their place.
              key={`${id}-${r}-${c}`}
              aria-label={`${label}, row ${r + 1}, column ${c + 1}`}
              value={cell}
              onChange={(e) => set(r, c, e.currentTarget.value)}
            />
          )),
        )}
      </div>
      <p className={classes.cellMoves}>
        <button
          type="button"
          className="plain underlined"
          disabled={rows.length >= 40}
          onClick={() => onChange([...rows, Array(columns).fill("")])}
        >
          Add a row
        </button>
        <button
          type="button"
          className="plain underlined"
          disabled={columns >= 6}
          onClick={() => onChange(rows.map((cells) => [...cells, ""]))}
        >
          Add a column
        </button>
        <button type="button" className="plain underlined" disabled={rows.length < 2} onClick={() => onChange(rows.slice(0, -1))}>
          Remove the last row
        </button>
        <button
          type="button"
          className="plain underlined"
          disabled={columns < 2}
          onClick={() => onChange(rows.map((cells) => cells.slice(0, -1)))}
        >
          Remove the last column
        </button>
      </p>
    </fieldset>
  );
}
