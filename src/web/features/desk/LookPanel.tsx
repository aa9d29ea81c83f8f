import type { DeskBlock, DeskRow } from "../../api/types";
import { blocksOf } from "./DeskStore";
import classes from "./LookPanel.module.css";
import rowClasses from "./RowSheet.module.css";
import { SealedNote } from "./SealedNote";
import { useDeskContext } from "./useDesk";

/** The brand's choices for each piece of a row, and nothing else. */
export function LookPanel({ row }: { row: DeskRow }) {
  const open = blocksOf(row).filter((b) => b.look.length > 0 && b.lookAllowance.allowed);
  return (
    <section aria-label={`${row.name}, look`}>
      <h2 className={rowClasses.title}>{row.name}</h2>
      {open.length === 0 && <p className="soft">How this row looks is settled. Everything in it follows the house style.</p>}
      {open.map((block) => (
        <Choices key={block.id} row={row} block={block} />
      ))}
      <SealedNote row={row} sealed={[]} />
    </section>
  );
}

function Choices({ row, block }: { row: DeskRow; block: DeskBlock }) {
  const { store } = useDeskContext();
  return block.look.map((look) => (
    <fieldset key={look.name} className={classes.choices}>
      <legend>
        {block.name}, {look.label.toLowerCase()}
      </legend>
      {look.choices.map((choice) => (
        <label key={choice} className={classes.choice} data-chosen={look.value === choice}>
          <input
            type="radio"
            name={`${block.id}-${look.name}`}
            checked={look.value === choice}
            onChange={() => store.edit({ kind: "set-look", row: row.id, piece: block.id, property: look.name, value: choice })}
          />
          {look.name === "level" ? `Heading ${choice}` : choice}
        </label>
      ))}
    </fieldset>
  ));
}
