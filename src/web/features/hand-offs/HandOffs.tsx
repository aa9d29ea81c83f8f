import { Link } from "react-router";
import type { HandOff } from "../../api/types";
import { dateAndTimeOf } from "../../shared/format";
import classes from "./HandOffRoom.module.css";

/** Every hand-off of the email: each corrects the one before. */
export function HandOffs({ handOff }: { handOff: HandOff }) {
  const { record } = handOff;
  return (
    <section aria-label="Hand-offs of this email">
      <h2>Hand-offs of this email</h2>
      <ol className={classes.all}>
        {handOff.all.map((one) => (
          <li key={one.id}>
            <Link to={`/emails/${record.email}/hand-offs/${one.number}`} aria-current={one.id === record.id ? "page" : undefined}>
              {one.number}
            </Link>
            <span>
              {one.by.name}, {dateAndTimeOf(one.at)}
              {one.number > 1 && <span className="soft">, corrects {one.number - 1}</span>}
              {one.withdrawal && <span className="soft">, withdrawn</span>}
            </span>
          </li>
        ))}
      </ol>
      <p>
        <Link to={`/emails/${record.email}/review?against=hand-off`} className="underlined">
          Compare with the email now
        </Link>
      </p>
    </section>
  );
}
