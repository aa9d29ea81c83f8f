import { type Desk, type DeskState, rowIds } from "../DeskStore";
import { RowSheet } from "./RowSheet";
import { SubjectFields } from "./SubjectFields";
import classes from "./WholeEmailCopy.module.css";

/** The words of the whole email, top to bottom, for people who write. */
export function WholeEmailCopy({ state }: { state: DeskState }) {
  const desk = state.desk as Desk;
  return (
    <div className={classes.whole}>
      <SubjectFields desk={desk} />
      {rowIds(desk).map((id) => {
        const row = state.rows.get(id);
        return row && <RowSheet key={id} row={row} desk={desk} onlyWords />;
      })}
    </div>
  );
}
