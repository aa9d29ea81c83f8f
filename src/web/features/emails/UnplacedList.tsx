import type { DeskEmail } from "../../api/types";
import { countOf } from "../../shared/format";
import classes from "../desk/copy/RowSheet.module.css";
import { useDeskContext } from "../desk/useDesk";
import { wordsOf } from "../desk/wordsOf";

/** What an update found no place for. It stays until someone has used it or puts it away. */
export function UnplacedList({ unplaced }: { unplaced: DeskEmail["unplaced"] }) {
  const { store } = useDeskContext();
  return (
    <section aria-label="Unplaced text">
      <h3 className={classes.sub}>Unplaced text</h3>
      <p className={classes.hint}>What was filled in where an update has no place for it. Nothing of it goes out.</p>
      <ul className={classes.summary}>
        {unplaced.map((one) => {
          const words = one.value ? wordsOf(one.value) : (one.choice ?? "");
          return (
            <li key={one.key}>
              <b>{one.where}</b>
              <span className={classes.small}>{one.why}</span>
              {words && <p className={classes.asideWords}>{words}</p>}
              {one.rows > 0 && <p className={classes.asideWords}>{countOf(one.rows, "row")}</p>}
              <p className={classes.acts}>
                {words && (
                  <button
                    type="button"
                    className="plain underlined"
                    onClick={() =>
                      navigator.clipboard.writeText(words).then(
                        () => store.say("Copied. Paste it where it belongs now."),
                        () => store.say("The browser does not let this page copy. Select the words and copy them."),
                      )
                    }
                  >
                    Copy the words
                  </button>
                )}
                <button type="button" className="plain underlined" onClick={() => store.edit({ kind: "put-away", key: one.key })}>
                  Discard
                </button>
              </p>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
