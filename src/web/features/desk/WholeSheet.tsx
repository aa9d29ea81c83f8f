import { type Desk, type DeskState, rowIds } from "./DeskStore";
import { DetailsSheet } from "./DetailsSheet";
import { RowSheet } from "./RowSheet";
import classes from "./WholeSheet.module.css";

/** The words of the whole email, top to bottom, for people who write. */
export function WholeSheet({ state }: { state: DeskState }) {
  const desk = state.desk as Desk;
  return (
    <div className={classes.whole}>
      <DetailsSheet desk={desk} />
      {rowIds(desk).map((id) => {
        const row = state.rows.get(id);
        return row && <RowSheet key={id} row={row} desk={desk} onlyWords />;
      })}
    </div>
  );
}
