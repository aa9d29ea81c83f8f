import type { ContrastEntry } from "../../api/types";
import classes from "./ContrastTable.module.css";
import { useRoom } from "./RoomContext";
import { places } from "./VariableList";

/** Values near the present ones with which a pair can be read; one press sets one. */
export function Remedies({ pair }: { pair: ContrastEntry }) {
  const { style, editAll } = useRoom();
  return (
    <div className={classes.remedies}>
      <h3>
        {pair.text} on {pair.background.toLowerCase()}
      </h3>
      <p className="soft">
        {pair.textColour} on {pair.backgroundColour} has {pair.ratio.toFixed(2)}, needs {pair.needed}. Passing values nearest to it:
      </p>
      {pair.remedies.length === 0 && <p>None by one change: give the property a variable first, or change both colours.</p>}
      <ul>
        {pair.remedies.map((remedy) => (
          <li key={`${remedy.ofText}${remedy.brand}`}>
            <button type="button" className="plain" disabled={!style.mayEdit} onClick={() => editAll([remedy.edit], "")}>
              <span
                className={classes.remedy}
                style={
                  remedy.ofText
                    ? { color: remedy.colour, background: pair.backgroundColour }
                    : { color: pair.textColour, background: remedy.colour }
                }
                aria-hidden="true"
              >
                Aa
              </span>
              <span>
                <b>{remedy.ofText ? "Text" : "Background"}:</b> {remedy.brand ?? `same hue, ${remedy.colour}`}, {remedy.ratio.toFixed(2)} :
                1<span className="soft">, {places(remedy.places)}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
