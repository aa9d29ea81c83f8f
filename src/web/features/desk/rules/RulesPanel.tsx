import { Checkbox, Textarea } from "@mantine/core";
import { useState } from "react";
import type { Aspect, DeskRow, DeskRules, Edit, Lock } from "../../../api/types";
import { toggled, useLiveField, useTypedField } from "../../../shared/useLiveField";
import { NotStored } from "../copy/fields/NotStored";
import rowClasses from "../copy/RowSheet.module.css";
import { blocksOf } from "../DeskStore";
import { useDeskContext } from "../useDesk";
import { LimitFields } from "./LimitFields";
import { inWords, LockChoice } from "./LockChoice";
import classes from "./RulesPanel.module.css";

const aspects: { value: Aspect; label: string }[] = [
  { value: "content", label: "Words, pictures" },
  { value: "look", label: "Look" },
  { value: "arrangement", label: "Arrangement" },
];

/** Locks, offers, limits and instructions of a row: one piece, or many at once. */
export function RulesPanel({ row }: { row: DeskRow }) {
  const { choice } = useDeskContext();
  const blocks = blocksOf(row);
  const pieces: { id: string; name: string; rules: DeskRules }[] = [
    ...(row.rules ? [{ id: row.piece, name: "The row", rules: row.rules }] : []),
    ...blocks.flatMap((b) => (b.rules ? [{ id: b.id, name: b.name, rules: b.rules }] : [])),
  ];
  const [chosen, setChosen] = useState<string[]>([choice.piece ?? row.piece]);
  const selected = pieces.filter((p) => chosen.includes(p.id));
  const toggle = (id: string) => setChosen(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id]);
  const only = selected.length === 1 ? selected[0] : undefined;
  const limited = blocks.filter((b) => chosen.includes(b.id));
  return (
    <section aria-label={`${row.name}, rules`}>
      <h2 className={rowClasses.title}>{row.name}</h2>
      <fieldset className={classes.pieces}>
        <legend>Rules for</legend>
        <button type="button" className="plain underlined" onClick={() => setChosen(pieces.map((p) => p.id))}>
          All blocks
        </button>
        {pieces.map((piece) => (
          <Checkbox
            key={piece.id}
            checked={chosen.includes(piece.id)}
            onChange={() => toggle(piece.id)}
            label={
              <>
                {piece.name} <span className="soft">{heldBack(piece.rules)}</span>
              </>
            }
          />
        ))}
      </fieldset>
      {selected.length === 0 && <p className="soft">Choose one block or several.</p>}
      {selected.length > 0 && <Locks row={row} pieces={selected} />}
      {selected.some((p) => row.master == null || p.id !== row.piece) && <Instruction key={chosen.join()} row={row} pieces={selected} />}
      {only && only.id !== row.piece && <Placeholder row={row} rules={only.rules} />}
      {only && <Offers row={row} rules={only.rules} />}
      {limited.length > 0 && <LimitFields key={limited.map((b) => b.id).join()} row={row} blocks={limited} />}
    </section>
  );
}

// What an author meets at a glance; nothing is said where words are open and looks are settled, as is usual.
function heldBack(rules: DeskRules): string {
  const lock = (aspect: Aspect) => rules.locks.find((l) => l.aspect === aspect)?.holds;
  const content = lock("content");
  const look = lock("look");
  return [
    content && content.kind !== "open" ? inWords(content) : "",
    look && look.kind === "open" && Object.keys(rules.offers).length > 0 ? "look offered" : "",
    Object.keys(rules.limits).length > 0 ? "limited" : "",
  ]
    .filter(Boolean)
    .join(" · ");
}

function Locks({ row, pieces }: { row: DeskRow; pieces: { id: string; rules: DeskRules }[] }) {
  return (
    <div className={classes.part}>
      <h3>Who may change it</h3>
      {/* The pieces of a saved row are arranged in the row itself. */}
      {aspects
        .filter((a) => row.master == null || a.value !== "arrangement")
        .map(({ value, label }) => {
          const lock = pieces[0]?.rules.locks.find((l) => l.aspect === value);
          return lock ? <PieceLock key={value} label={label} row={row} pieces={pieces.map((p) => p.id)} lock={lock} /> : null;
        })}
    </div>
  );
}

/** One aspect of the chosen pieces; what the first of them says is shown. */
function PieceLock({ label, row, pieces, lock }: { label: string; row: DeskRow; pieces: string[]; lock: DeskRules["locks"][number] }) {
  const { aspect } = lock;
  const [own, set] = useLiveField<Lock | null>(lock.own, `${row.id}/${pieces.join()}/lock/${aspect}`, (next) =>
    pieces.map((piece): Edit => ({ kind: "set-lock", row: row.id, piece, aspect, lock: next })),
  );
  return <LockChoice label={label} lock={{ ...lock, own }} onChange={set} />;
}

function Instruction({ row, pieces }: { row: DeskRow; pieces: { id: string; rules: DeskRules }[] }) {
  const own = row.master == null;
  const [text, change, refused] = useTypedField(
    pieces[0]?.rules.instruction ?? "",
    `${row.id}/${pieces.map((p) => p.id).join()}/instruction`,
    (next) =>
      pieces
        .filter((p) => own || p.id !== row.piece)
        .map((p): Edit => ({ kind: "set-instruction", row: row.id, piece: p.id === row.piece ? null : p.id, text: next || null })),
  );
  return (
    <>
      <Textarea
        label="Instruction"
        autosize
        minRows={2}
        className={classes.instruction}
        value={text}
        onChange={(e) => change(e.currentTarget.value)}
        placeholder="One picture, one promise. At most 60 characters."
      />
      <NotStored reason={refused} />
    </>
  );
}

function Placeholder({ row, rules }: { row: DeskRow; rules: DeskRules }) {
  const piece = rules.piece ?? "";
  const [on, set] = useLiveField(rules.placeholder, `${row.id}/${piece}/placeholder`, (placeholder) => ({
    kind: "set-placeholder",
    row: row.id,
    piece,
    placeholder,
  }));
  return (
    <Checkbox
      className={classes.check}
      label="This is placeholder text: it must be replaced before sending"
      checked={on}
      onChange={(e) => set(e.currentTarget.checked)}
    />
  );
}

function Offers({ row, rules }: { row: DeskRow; rules: DeskRules }) {
  if (rules.look.length === 0) {
    return null;
  }
  const open = rules.locks.find((l) => l.aspect === "look")?.holds.kind !== "sealed";
  return (
    <div className={classes.part}>
      <h3>Look choices offered</h3>
      {!open && <p className="soft">The look is locked; open or reserve it above to offer choices.</p>}
      {rules.look.map((look) => (
        <Offer key={look.name} row={row} piece={rules.piece ?? ""} look={look} choices={rules.offers[look.name] ?? []} />
      ))}
    </div>
  );
}

function Offer({ row, piece, look, choices }: { row: DeskRow; piece: string; look: DeskRules["look"][number]; choices: string[] }) {
  const [offered, set] = useLiveField(choices, `${row.id}/${piece}/offer/${look.name}`, (next) => ({
    kind: "set-offer",
    row: row.id,
    piece,
    property: look.name,
    choices: next,
  }));
  // In the order of the choices, whichever was ticked first.
  const toggle = (choice: string) => set((now) => look.choices.filter((c) => toggled(now, choice).includes(c)));
  return (
    <fieldset className={classes.offer}>
      <legend>{look.label}</legend>
      {look.choices.map((choice) => (
        <Checkbox key={choice} label={choice} checked={offered.includes(choice)} onChange={() => toggle(choice)} />
      ))}
    </fieldset>
  );
}
