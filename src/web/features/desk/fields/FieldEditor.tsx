import type { DeskBlock, DeskField, FieldValue, Finding, PictureEntry } from "../../../api/types";
import { useDeskContext } from "../useDesk";
import { EntriesField } from "./EntriesField";
import { FindingLine } from "./FindingLine";
import classes from "./fields.module.css";
import { Meter, meterNote, roomNote } from "./Meter";
import { useKeptValue } from "./useKeptValue";
import { ValueEditor } from "./ValueEditor";

interface Props {
  row: string;
  block: DeskBlock;
  field: DeskField;
  /** The piece's name stands above already. */
  headed?: boolean;
  findings: Finding[];
}

/** One field of the copy sheet: what it takes, how full it is, what is wrong with it. */
export function FieldEditor({ row, block, field, headed, findings }: Props) {
  const { store, choice } = useDeskContext();
  const making = store.kind !== "emails";
  // Wording that only says what belongs here shows as a hint, so that writing starts on an empty line. Where the
  // wording itself is made it is written like any other.
  const hint = block.placeholder && !field.filled && !making ? wordsOf(field.value) : undefined;
  const [value, setValue] = useKeptValue<FieldValue>(
    hint ? emptied(field.value) : field.value,
    `${row}/${block.id}/${field.name}`,
    (next) => store.edit({ kind: "set-fill", row, piece: block.id, field: field.name, value: next }),
  );
  const whole = field.measured.filter((m) => m.item === 0);
  const asked =
    choice.row === row && choice.piece === block.id && (choice.field ?? block.fields[0]?.name) === field.name ? choice.asked : 0;
  const common = {
    id: `${row}-${block.id}-${field.name}`,
    label: !headed && block.fields[0] === field && value.kind !== "picture" && block.fields.length < 3 ? block.name : field.label,
    note: hint ? roomNote(whole) : meterNote(whole),
  };
  // A picture brings the alt text that the library knows it by, in the same step; the author can write over it.
  const choosePicture = (picture: PictureEntry) => {
    const set = (name: string, next: FieldValue) => ({ kind: "set-fill" as const, row, piece: block.id, field: name, value: next });
    const has = (name: string) => field.name === "picture" && block.fields.some((f) => f.name === name);
    store.edit(
      set(field.name, { kind: "picture", picture: picture.id }),
      ...(picture.alt && has("alt") ? [set("alt", { kind: "words", text: picture.alt })] : []),
      ...(picture.decorative && has("decorative") ? [set("decorative", { kind: "flag", on: true })] : []),
    );
  };
  return (
    <div className={classes.entry} data-field={`${block.id}/${field.name}`}>
      {value.kind === "entries" ? (
        <EntriesField {...common} field={field} items={value.items} onChange={(items) => setValue({ kind: "entries", items })} />
      ) : (
        <ValueEditor
          {...common}
          asked={asked}
          caret={choice.caret}
          placeholder={hint}
          broken={!hint && (field.measured.some((m) => m.broken) || findings.some((f) => f.severity === "stop"))}
          value={value.kind === "picture" ? field.value : value}
          onChange={setValue}
          onPicture={choosePicture}
        />
      )}
      {!hint && <Meter measured={whole} />}
      {findings.map((finding) => (
        <FindingLine key={`${finding.check}-${finding.message}`} finding={finding} />
      ))}
    </div>
  );
}

function wordsOf(value: FieldValue): string | undefined {
  if (value.kind === "words") {
    return value.text || undefined;
  }
  const lines = value.kind === "prose" ? (value.text.paragraphs ?? []).map((p) => (p.runs ?? []).map((r) => r.text).join("")) : [];
  return lines.join("\n") || undefined;
}

function emptied(value: FieldValue): FieldValue {
  return value.kind === "prose"
    ? { kind: "prose", text: { paragraphs: [] } }
    : value.kind === "words"
      ? { kind: "words", text: "" }
      : value;
}
