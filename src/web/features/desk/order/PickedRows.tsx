import classes from "./RunningOrder.module.css";
import type { Picked } from "./usePicked";

/** What can be done to several rows at once. */
export function PickedRows({ picked }: { picked: Picked }) {
  const act = (name: string, run: () => void) => (
    <button type="button" className="plain underlined" onClick={run}>
      {name}
    </button>
  );
  return (
    <section className={classes.picked} aria-label="Rows picked">
      <p role="status">{picked.rows.length} rows picked</p>
      <p>
        {act("Up", () => picked.move(-1))}
        {act("Down", () => picked.move(1))}
        {picked.rows.length === 2 && act("Swap", picked.swap)}
        {act("Duplicate", picked.duplicate)}
        {act("Remove", picked.remove)}
      </p>
      <p>
        {act("Phones only", () => picked.show("phone-only"))}
        {act("Desktops only", () => picked.show("desktop-only"))}
        {act("Everywhere", () => picked.show("everywhere"))}
      </p>
      <p>{act("Clear selection", picked.clear)}</p>
    </section>
  );
}
