import { countOf } from "../../shared/format";
import classes from "./ReadersRoom.module.css";

/** Why what is typed was not taken. */
export function Refused({ why }: { why?: string }) {
  return why ? (
    <p role="alert" className={classes.fault}>
      ■ {why}
    </p>
  ) : null;
}

interface RetiringProps {
  retired: boolean;
  /** How many documents it stands in: only what stands nowhere can go. */
  places: number;
  onRetire: (retired: boolean) => void;
  onRemove: () => void;
}

/** Takes something from what is offered, or away. */
export function Retiring({ retired, places, onRetire, onRemove }: RetiringProps) {
  return (
    <p>
      {retired ? "Retired: it is not offered any more. " : `Offered to authors, in ${countOf(places, "place")}. `}
      <button type="button" className="plain underlined" onClick={() => onRetire(!retired)}>
        {retired ? "Restore" : "Retire"}
      </button>
      {places === 0 && (
        <>
          {" · "}
          <button type="button" className="plain underlined" onClick={onRemove}>
            Remove
          </button>
        </>
      )}
    </p>
  );
}
