import { NumberInput, TextInput } from "@mantine/core";
import { useState } from "react";
import type { DeskBlock, DeskRow, FieldValue, Limit } from "../../../api/types";
import { alike } from "../../../shared/alike";
import { useTypedField } from "../../../shared/useLiveField";
import { NotStored } from "../copy/fields/NotStored";
import classes from "./RulesPanel.module.css";

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
  const [value, setValue, refused] = useTypedField<Limit>(limit ?? {}, `${row.id}/${pieces.join()}/${name}/limit`, (next) =>
    pieces.map((piece) => ({ kind: "set-limit" as const, row: row.id, piece, field: name, limit: isEmpty(next) ? null : next })),
  );
  const set = (change: Partial<Limit>) => setValue((now) => ({ ...now, ...change }));
  return (
    <fieldset className={classes.limit}>
      <legend>{label}</legend>
      {bounds[kind]?.map(([bound, text]) => (
        <NumberInput
          key={bound}
          label={text}
          min={bound === "itemsLeast" ? 0 : 1}
          allowDecimal={false}
          value={value[bound] ?? ""}
          onChange={(next) => set({ [bound]: next === "" ? null : Number(next) })}
        />
      ))}
      {kind === "picture" && (
        <TextInput
          label="shape, width to height"
          value={value.pictureRatio ?? ""}
          placeholder="2:1"
          onChange={(e) => set({ pictureRatio: e.currentTarget.value || null })}
        />
      )}
      {kind === "link" && <Sites hosts={value.hosts ?? []} onChange={(hosts) => set({ hosts })} />}
      <NotStored reason={refused} />
    </fieldset>
  );
}

/** Sites parted by blanks: what is typed stays as it is typed, the blank before the next one and a name half written too. */
function Sites({ hosts, onChange }: { hosts: string[]; onChange: (hosts: string[]) => void }) {
  const [typed, setTyped] = useState(hosts.join(" "));
  const [left, setLeft] = useState(false);
  const half = hostsOf(typed).find((host) => !whole.test(host));
  return (
    <div className={classes.hosts}>
      <TextInput
        label="sites it may lead to"
        value={alike(wholeOf(typed), hosts) ? typed : hosts.join(" ")}
        placeholder="larkfell.example.org"
        onFocus={() => setLeft(false)}
        onBlur={() => setLeft(true)}
        onChange={(e) => {
          setTyped(e.currentTarget.value);
          onChange(wholeOf(e.currentTarget.value));
        }}
      />
      {left && half && <NotStored reason={`"${half}" is not the name of a site yet. Write it like larkfell.example.org.`} />}
    </div>
  );
}

const hostsOf = (text: string) => text.split(/[\s,]+/).filter(Boolean);
// Letters with a dot between them; whether it is the name of a host is the server's to say.
const whole = /^[^.]+(\.[^.]+)+$/;
const wholeOf = (text: string) => hostsOf(text).filter((host) => whole.test(host));

const isEmpty = (limit: Limit) => Object.values(limit).every((v) => v === null || v === undefined || (Array.isArray(v) && v.length === 0));
