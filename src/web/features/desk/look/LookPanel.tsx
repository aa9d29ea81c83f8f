import { NativeSelect, NumberInput, Radio } from "@mantine/core";
import { useState } from "react";
import type { DeskBlock, DeskLook, DeskRow, Visibility } from "../../../api/types";
import { choiceOf } from "../../../shared/format";
import { newId } from "../../../shared/ids";
import { lazily } from "../../../shared/lazily";
import { useLiveField } from "../../../shared/useLiveField";
import { usePicture } from "../../pictures/usePictures";
import { LockedNote } from "../copy/LockedNote";
import rowClasses from "../copy/RowSheet.module.css";
import { blocksOf } from "../DeskStore";
import classes from "./LookPanel.module.css";
import { LayoutDrawing, layouts } from "./layouts";
import { WhoSees } from "./WhoSees";

const PictureDialog = lazily(() => import("../../pictures/PictureDialog"));

/** The brand's choices for a row and each piece of it, and nothing else. */
export function LookPanel({ row }: { row: DeskRow }) {
  const blocks = blocksOf(row);
  const looked = blocks.filter((b) => b.look.length > 0 && b.lookAllowance.allowed);
  const rowLooks = row.lookAllowance.allowed && row.look.length > 0;
  const shown = row.shownAllowance.allowed || blocks.some((b) => b.content.allowed);
  return (
    <section aria-label={`${row.name}, look`}>
      <h2 className={rowClasses.title}>{row.name}</h2>
      {!rowLooks && looked.length === 0 && !row.shape.allowed && (
        <p className="soft">How this row looks is settled. Everything in it follows the house style.</p>
      )}
      {row.shape.allowed && <Layout row={row} />}
      {rowLooks && row.look.map((look) => <Choices key={look.name} row={row} piece={row.piece} title={look.label} look={look} />)}
      {row.shape.allowed && row.lookAllowance.allowed && <Background row={row} />}
      {looked.flatMap((block) =>
        block.look.map((look) => (
          <Choices
            key={`${block.id}-${look.name}`}
            row={row}
            piece={block.id}
            title={`${block.name}, ${look.label.toLowerCase()}`}
            look={look}
          />
        )),
      )}
      {shown && <Screens row={row} blocks={blocks} />}
      <WhoSees row={row} blocks={blocks} />
      <LockedNote row={row} sealed={[]} />
    </section>
  );
}

function Choices({ row, piece, title, look }: { row: DeskRow; piece: string; title: string; look: DeskLook }) {
  const [value, choose] = useLiveField(look.value, `${row.id}/${piece}/look/${look.name}`, (choice) => ({
    kind: "set-look",
    row: row.id,
    piece,
    property: look.name,
    value: choice,
  }));
  return (
    <fieldset className={classes.choices}>
      <legend>{title}</legend>
      {look.choices.map((choice) => (
        <Radio
          key={choice}
          className={classes.choice}
          data-chosen={value === choice}
          name={`${row.id}-${piece}-${look.name}`}
          label={look.name === "level" ? `Heading ${choice}` : look.name === "width" ? `${choice} %` : choiceOf(choice)}
          checked={value === choice}
          onChange={() => choose(choice)}
        />
      ))}
    </fieldset>
  );
}

/** How the columns share the row. */
function Layout({ row }: { row: DeskRow }) {
  const [shares, setShares] = useLiveField(
    row.columns.map(({ id, parts }) => ({ id, parts })),
    `${row.id}/layout`,
    (next) => ({ kind: "set-layout", row: row.id, shares: next }),
  );
  const parts = shares.map((c) => c.parts);
  const lay = (next: number[]) => setShares((now) => next.map((p, i) => ({ id: now[i]?.id ?? newId(), parts: p })));
  return (
    <fieldset className={classes.choices}>
      <legend>Columns</legend>
      {layouts.map((layout) => (
        <button
          key={layout.name}
          type="button"
          className={`plain ${classes.layout}`}
          aria-label={layout.name}
          title={layout.name}
          aria-pressed={String(layout.parts) === String(parts)}
          onClick={() => lay(layout.parts)}
        >
          <LayoutDrawing parts={layout.parts} />
        </button>
      ))}
      {parts.length > 1 && (
        <div className={classes.parts}>
          {shares.map((column, index) => (
            <div key={column.id}>
              Column {index + 1}
              <NumberInput
                aria-label={`Column ${index + 1}, parts of the width`}
                min={1}
                max={12}
                allowDecimal={false}
                clampBehavior="strict"
                value={column.parts}
                onChange={(next) => lay(parts.map((p, i) => (i === index ? Number(next) || 1 : p)))}
              />
              <span className="soft">{row.columns.find((c) => c.id === column.id)?.width} px</span>
            </div>
          ))}
        </div>
      )}
    </fieldset>
  );
}

/** A picture behind the row; the surface's colour stays beneath it. */
function Background({ row }: { row: DeskRow }) {
  const [background, setBackground] = useLiveField<string | null>(row.background ?? null, `${row.id}/background`, (picture) => ({
    kind: "set-background",
    row: row.id,
    picture,
  }));
  const [choosing, setChoosing] = useState(false);
  const shown = usePicture(background ?? "");
  return (
    <fieldset className={classes.choices}>
      <legend>Picture behind it</legend>
      <span>
        {background ? (shown?.name ?? "A picture") : "None"} ·{" "}
        <button type="button" className="plain underlined" onClick={() => setChoosing(true)}>
          Choose
        </button>
        {background && (
          <>
            {" · "}
            <button type="button" className="plain underlined" onClick={() => setBackground(null)}>
              Remove
            </button>
          </>
        )}
      </span>
      <p className={classes.note}>
        Where it does not show, the background colour above stands for it; choose one on which the text reads well.
      </p>
      {choosing && (
        <PictureDialog
          onChoose={(picture) => {
            setBackground(picture.id);
            setChoosing(false);
          }}
          onClose={() => setChoosing(false)}
        />
      )}
    </fieldset>
  );
}

const screens: { value: Visibility; label: string }[] = [
  { value: "everywhere", label: "Everywhere" },
  { value: "phone-only", label: "On phones only" },
  { value: "desktop-only", label: "On desktops only" },
];

/** On which screens the row and its pieces are shown. */
function Screens({ row, blocks }: { row: DeskRow; blocks: DeskBlock[] }) {
  const line = (piece: string, name: string, shown: Visibility) => <Screen key={piece} row={row} piece={piece} name={name} shown={shown} />;
  return (
    <fieldset className={classes.screens}>
      <legend>Where it is shown</legend>
      {row.shownAllowance.allowed && line(row.piece, "The whole row", row.shown)}
      {blocks.filter((b) => b.content.allowed).map((b) => line(b.id, b.name, b.shown))}
    </fieldset>
  );
}

function Screen({ row, piece, name, shown }: { row: DeskRow; piece: string; name: string; shown: Visibility }) {
  const [value, show] = useLiveField(shown, `${row.id}/${piece}/shown`, (on) => ({ kind: "set-shown", row: row.id, piece, shown: on }));
  return (
    <NativeSelect
      label={name}
      className={classes.screen}
      data={screens}
      value={value}
      onChange={(e) => show(e.currentTarget.value as Visibility)}
    />
  );
}
