import classes from "./fields.module.css";

/** Beside what was typed and refused: why it is not stored. Nothing, where nothing was refused. */
export function NotStored({ reason }: { reason?: string }) {
  return reason ? (
    <p role="alert" className={classes.finding} data-severity="stop">
      ■ Not stored: {reason}
    </p>
  ) : null;
}
