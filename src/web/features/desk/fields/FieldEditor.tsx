import { lazy, Suspense } from "react";
import type { DeskBlock, DeskField, FieldValue, Finding, PictureEntry } from "../../../api/types";
import { useDeskContext } from "../useDesk";
import { CellsField } from "./CellsField";
import { FindingLine } from "./FindingLine";
import classes from "./fields.module.css";
import { LineInput } from "./LineInput";
import { LinksField } from "./LinksField";
import { Meter, meterNote, roomNote } from "./Meter";
import { PictureField } from "./PictureField";
import { useKeptValue } from "./useKeptValue";

const ProseField = lazy(() => import("./ProseField"));

interface Props {
  row: string;
  block: DeskBlock;
  field: DeskField;
  findings: Finding[];
}

/** One field of the copy sheet: what it takes, how full it is, what is wrong with it. */
export function FieldEditor({ row, block, field, findings }: Props) {
  const { store, choice } = useDeskContext();
  // Wording that only says what belongs here shows as a hint, so that writing starts on an empty line.
  const hint = block.placeholder && !field.filled ? wordsOf(field.value) : undefined;
  const [value, setValue] = useKeptValue<FieldValue>(
    hint ? emptied(field.value) : field.value,
    `${row}/${block.id}/${field.name}`,
    (next) => store.edit({ kind: "set-fill", row, piece: block.id, field: field.name, value: next }),
  );
  const asked =
    choice.row === row && choice.piece === block.id && (choice.field ?? block.fields[0]?.name) === field.name ? choice.asked : 0;
  const common = {
    id: `${row}-${block.id}-${field.name}`,
    label: block.fields[0] === field && block.kind !== "picture" ? block.name : field.label,
    asked,
    caret: choice.caret,
    note: hint ? roomNote(field.measured) : meterNote(field.measured),
    broken: !hint && (field.measured.some((m) => m.broken) || findings.some((f) => f.severity === "stop")),
  };
  // A picture brings the alt text that the library knows it by, in the same step; the author can write over it.
  const choosePicture = (picture: PictureEntry) => {
    const set = (name: string, value: FieldValue) => ({ kind: "set-fill" as const, row, piece: block.id, field: name, value });
    store.edit(
      set(field.name, { kind: "picture", picture: picture.id }),
      ...(picture.alt ? [set("alt", { kind: "words", text: picture.alt })] : []),
      ...(picture.decorative ? [set("decorative", { kind: "flag", on: true })] : []),
    );
  };
  return (
    <div className={classes.entry} data-field={`${block.id}/${field.name}`}>
      {value.kind === "words" && (
        <LineInput {...common} placeholder={hint} value={value.text} onChange={(text) => setValue({ kind: "words", text })} />
      )}
      {value.kind === "link" && (
        <LineInput
          {...common}
          type="url"
          placeholder="https://"
          value={value.href}
          onChange={(href) => setValue({ kind: "link", href: href.trim() })}
        />
      )}
      {value.kind === "prose" && (
        <Suspense fallback={<div className={classes.waiting} />}>
          <ProseField {...common} placeholder={hint} value={value.text} onChange={(text) => setValue({ kind: "prose", text })} />
        </Suspense>
      )}
      {field.value.kind === "picture" && <PictureField {...common} picture={field.value.picture} onChoose={choosePicture} />}
      {value.kind === "flag" && (
        <label className={classes.flag}>
          <input type="checkbox" checked={value.on} onChange={(e) => setValue({ kind: "flag", on: e.currentTarget.checked })} />
          {field.label}
        </label>
      )}
      {value.kind === "cells" && <CellsField {...common} rows={value.rows} onChange={(rows) => setValue({ kind: "cells", rows })} />}
      {value.kind === "links" && <LinksField {...common} links={value.links} onChange={(links) => setValue({ kind: "links", links })} />}
      {!hint && <Meter measured={field.measured} />}
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
