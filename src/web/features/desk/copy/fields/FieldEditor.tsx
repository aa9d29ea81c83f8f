import { useDroppable } from "@dnd-kit/core";
import { useRef } from "react";
import type { DeskBlock, DeskField, Edit, FieldValue, Finding, PictureEntry, RichText } from "../../../../api/types";
import { newId } from "../../../../shared/ids";
import { useTypedField } from "../../../../shared/useLiveField";
import type { Target } from "../../drag/dragged";
import { isBlocker } from "../../toFill";
import { useDeskContext } from "../../useDesk";
import { wordsOf } from "../../wordsOf";
import { withAlt } from "./choosePicture";
import { EntriesField } from "./EntriesField";
import { FindingLine } from "./FindingLine";
import classes from "./fields.module.css";
import { Meter, meterNote, roomNote } from "./Meter";
import { NotStored } from "./NotStored";
import { notesOf } from "./notesOf";
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
  const { store, choice, choose, mark, others } = useDeskContext();
  const making = store.kind !== "emails";
  // Wording that only says what belongs here shows as a hint, so that writing starts on an empty line. Where the
  // wording itself is made it is written like any other.
  const hint =
    block.placeholder && !field.filled && !making && isWritten(field.value)
      ? wordsOf(field.resolved ?? field.value) || undefined
      : undefined;
  const along = useRef<Edit[]>([]);
  const [value, setValue, refused] = useTypedField<FieldValue>(
    hint ? emptied(field.value) : field.value,
    `${row}/${block.id}/${field.name}`,
    (next) => [{ kind: "set-fill", row, piece: block.id, field: field.name, value: next }, ...along.current.splice(0)],
  );
  const whole = field.measured.filter((m) => m.item === 0);
  const asked =
    choice.row === row && choice.piece === block.id && (choice.field ?? block.fields[0]?.name) === field.name ? choice.asked : 0;
  const common = {
    id: `${row}-${block.id}-${field.name}`,
    label: !headed && block.fields[0] === field && value.kind !== "picture" && block.fields.length < 3 ? block.name : field.label,
    note: hint ? roomNote(whole) : meterNote(whole),
  };
  const choosePicture = (picture: PictureEntry) => {
    along.current = withAlt(row, block, field.name, picture);
    setValue({ kind: "picture", picture: picture.id });
  };
  const splits = block.kind === "text" && block.arrange.allowed && store.snapshot().rows.get(row)?.shape.allowed;
  const split = (first: RichText, rest: RichText) => {
    const id = newId();
    const look = Object.fromEntries(block.look.map((l) => [l.name, l.value]));
    store.edit({
      kind: "split-text",
      row,
      piece: block.id,
      field: field.name,
      first,
      rest: { id, kind: block.kind, look, content: { [field.name]: { kind: "prose", text: rest } } },
    });
    choose(row, id, field.name, 0);
  };
  const target: Target = { kind: "picture", row, piece: block.id, field: field.name, name: `in ${common.label}` };
  const drop = useDroppable({ id: `field-${row}-${block.id}-${field.name}`, data: target, disabled: field.value.kind !== "picture" });
  const there = others.filter((o) => o.place === `${row}/${block.id}/${field.name}`);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only notes where the focus is, for others to see.
    <div
      className={classes.entry}
      ref={drop.setNodeRef}
      data-over={drop.isOver && drop.active?.data.current?.kind === "picture"}
      data-field={`${block.id}/${field.name}`}
      onFocus={() =>
        choice.row === row && choice.piece === block.id && choice.field === field.name ? undefined : mark(row, block.id, field.name)
      }
    >
      {value.kind === "entries" ? (
        <EntriesField
          {...common}
          field={field}
          items={value.items}
          onChange={(change) => setValue((now) => (now.kind === "entries" ? { kind: "entries", items: change(now.items) } : now))}
        />
      ) : (
        <ValueEditor
          {...common}
          asked={asked}
          caret={choice.caret}
          placeholder={hint}
          broken={!hint && (field.measured.some((m) => m.broken) || findings.some(isBlocker))}
          value={value}
          resolved={field.resolved ?? undefined}
          onChange={setValue}
          onPicture={choosePicture}
          onSplit={splits ? split : undefined}
          lang={store.snapshot().desk?.head.language}
        />
      )}
      {there.length > 0 && <p className={classes.there}>{there.map((o) => o.name).join(", ")} writes here too.</p>}
      {!hint && <Meter measured={whole} />}
      <div id={notesOf(common.id)}>
        <NotStored reason={refused} />
        {findings.map((finding) => (
          <FindingLine key={`${finding.check}-${finding.message}`} finding={finding} />
        ))}
      </div>
    </div>
  );
}

const isWritten = (value: FieldValue) => value.kind === "words" || value.kind === "prose";

function emptied(value: FieldValue): FieldValue {
  return value.kind === "prose"
    ? { kind: "prose", text: { paragraphs: [] } }
    : value.kind === "words"
      ? { kind: "words", text: "" }
      : value;
}
