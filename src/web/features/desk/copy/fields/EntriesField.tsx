import type { DeskField, FieldValue, PictureEntry } from "../../../../api/types";
import classes from "./fields.module.css";
import { Meter, meterNote } from "./Meter";
import { ValueEditor } from "./ValueEditor";

type Item = Record<string, FieldValue>;

interface Props {
  id: string;
  label: string;
  field: DeskField;
  items: Item[];
  note: string;
  /** Told how the items change: several changes may be made before the first is drawn. */
  onChange: (change: (items: Item[]) => Item[]) => void;
}

/** Items of one shape, each with its fields; they are added, moved and taken out here. */
export function EntriesField({ id, label, field, items, note, onChange }: Props) {
  const resolved = field.resolved?.kind === "entries" ? field.resolved.items : [];
  const set = (index: number, change: Item) => onChange((all) => all.map((item, i) => (i === index ? { ...item, ...change } : item)));
  const move = (index: number, step: number) =>
    onChange((all) => {
      const next = all.filter((_, i) => i !== index);
      next.splice(index + step, 0, all[index] as Item);
      return next;
    });
  const picture = (index: number, name: string, chosen: PictureEntry) =>
    set(index, {
      [name]: { kind: "picture", picture: chosen.id },
      ...(chosen.alt && field.entry.some((e) => e.name === "alt") ? { alt: { kind: "words", text: chosen.alt } as FieldValue } : {}),
    });
  return (
    <fieldset className={classes.links}>
      <legend className={classes.label}>
        <span>{label}</span>
        <span className={classes.figure}>{note || items.length}</span>
      </legend>
      {items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: items have no other identity than their place.
        <fieldset key={index} className={classes.item} aria-label={`${label}, item ${index + 1}`}>
          <p className={classes.itemHead}>
            <span>{index + 1}</span>
            <button type="button" className="plain underlined" disabled={index === 0} onClick={() => move(index, -1)}>
              Up
            </button>
            <button type="button" className="plain underlined" disabled={index === items.length - 1} onClick={() => move(index, 1)}>
              Down
            </button>
            <button type="button" className="plain underlined" onClick={() => onChange((all) => all.filter((_, i) => i !== index))}>
              Remove
            </button>
          </p>
          {field.entry.map((part) => {
            const measured = field.measured.filter((m) => m.item === index + 1 && m.field === part.name);
            return (
              <div key={part.name} className={classes.entry}>
                <ValueEditor
                  id={`${id}-${index}-${part.name}`}
                  label={part.label}
                  value={item[part.name] ?? part.default}
                  resolved={resolved[index]?.[part.name]}
                  note={meterNote(measured)}
                  broken={measured.some((m) => m.broken)}
                  onChange={(value) => set(index, { [part.name]: value })}
                  onPicture={(chosen) => picture(index, part.name, chosen)}
                />
                <Meter measured={measured} />
              </div>
            );
          })}
        </fieldset>
      ))}
      <button
        type="button"
        className="plain underlined"
        onClick={() => onChange((all) => [...all, Object.fromEntries(field.entry.map((e) => [e.name, e.default]))])}
      >
        Add an item
      </button>
    </fieldset>
  );
}
