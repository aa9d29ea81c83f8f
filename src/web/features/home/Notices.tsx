import { Link, useLocation } from "react-router";
import classes from "./Notices.module.css";
import { useWaits } from "./useWaits";
import { acts } from "./waits";

/**
 * Something that has just come to wait for whoever is signed in, whichever room they are in. It stays until it is answered or closed,
 * and takes no focus. Home shows it anyway.
 */
export function Notices() {
  const { pathname } = useLocation();
  const { fresh, dismiss } = useWaits();
  const wait = pathname === "/home" ? undefined : fresh;
  return (
    <div role="log" aria-label="Notices" className={classes.place}>
      {wait && (
        <div className={classes.notice}>
          <p>
            <b>{wait.name}</b> {wait.text}
          </p>
          <Link to={acts[wait.kind].to(wait)} className="underlined" onClick={dismiss}>
            {acts[wait.kind].name}
          </Link>
          <button type="button" className="plain" aria-label="Close the notice" onClick={dismiss}>
            ✕
          </button>
        </div>
      )}
    </div>
  );
}
