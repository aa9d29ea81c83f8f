import type { DeskBlock, DeskRow, FieldValue, Limit } from "../../api/types";
import { useKeptValue } from "./fields/useKeptValue";
import classes from "./RulesPanel.module.css";
import { useDeskContext } from "./useDesk";

type Bound = "characters" | "words" | "lines" | "pictureWidth" | "pictureHeight" | "pictureKilobytes" | "itemsLeast" | "itemsMost";

const words: [Bound, string][] = [
  ["characters", "characters at most"],
  ["words", "words at most"],
  ["lines", "lines at most"],
];
const picture: [Bound, string][] = [
  ["pictureWidth", "px wide at least"],
  ["pictureHeight", "px high at least"],
  ["pictureKilobytes", "KB at most"],
];
const items: [Bound, string][] = [
  ["itemsLeast", "items at least"],
  ["itemsMost", "items at most"],
];
const bounds: Partial<Record<FieldValue["kind"], [Bound, string][]>> = {
  words,
  prose: words,
  picture,
  entries: items,
  links: items,
  cells: items,
  link: [],
};

/** The measured bounds of the fields that the chosen pieces have in common; of a list of entries also those of each item. */
export function LimitFields({ row, blocks }: { row: DeskRow; blocks: DeskBlock[] }) {
  const all = blocks.map((block) =>
    block.fields.flatMap((field) => [
      { key: field.name, label: field.label, kind: field.value.kind },
      ...field.entry.map((e) => ({
        key: `${field.name}/${e.name}`,
        label: `${field.label}, ${e.label.toLowerCase()}`,
        kind: e.default.kind,
      })),
    ]),
  );
  const common = (all[0] ?? []).filter((f) => bounds[f.kind] && all.every((own) => own.some((o) => o.key === f.key && o.kind === f.kind)));
  if (common.length === 0) {
    return null;
  }
  return (
    <div className={classes.part}>
      <h3>Limits</h3>
      {common.map((field) => (
        <FieldLimit
          key={field.key}
          row={row}
          pieces={blocks.map((b) => b.id)}
          name={field.key}
          label={field.label}
          kind={field.kind}
          limit={blocks[0]?.rules?.limits[field.key]}
        />
      ))}
    </div>
  );
}

interface Props {
  row: DeskRow;
  pieces: string[];
  name: string;
  label: string;
  kind: FieldValue["kind"];
  limit?: Limit;
}

function FieldLimit({ row, pieces, name, label, kind, limit }: Props) {
  const { store } = useDeskContext();
  const [value, setValue] = useKeptValue<Limit>(limit ?? {}, `${row.id}/${pieces[0]}/${name}/limit`, (next) =>
    store.edit(
      ...pieces.map((piece) => ({ kind: "set-limit" as const, row: row.id, piece, field: name, limit: isEmpty(next) ? null : next })),
    ),
  );
  const set = (change: Partial<Limit>) => setValue({ ...value, ...change });
  return (
    <fieldset className={classes.limit}>
      <legend>{label}</legend>
      {bounds[kind]?.map(([bound, text]) => (
        <label key={bound}>
          <input
            type="number"
            min={bound === "itemsLeast" ? 0 : 1}
            value={value[bound] ?? ""}
            onChange={(e) => set({ [bound]: Number.isNaN(e.currentTarget.valueAsNumber) ? null : e.currentTarget.valueAsNumber })}
          />
          {text}
        </label>
      ))}
      {kind === "picture" && (
        <label>
          <input
            value={value.pictureRatio ?? ""}
            placeholder="2:1"
            onChange={(e) => set({ pictureRatio: e.currentTarget.value || null })}
          />
          shape, width to height
        </label>
      )}
      {kind === "link" && (
        <label className={classes.hosts}>
          <input
            value={(value.hosts ?? []).join(" ")}
            placeholder="larkfell.example.org"
            onChange={(e) => set({ hosts: e.currentTarget.value.split(/[\s,]+/).filter(Boolean) })}
          />
          sites it may lead to
        </label>
      )}
    </fieldset>
  );
}

const isEmpty = (limit: Limit) => Object.values(limit).every((v) => v === null || v === undefined || (Array.isArray(v) && v.length === 0));
