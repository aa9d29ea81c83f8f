import { Link, useLocation } from "react-router";
import { useIsOlder } from "../../api/pageRelease";
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
  const older = useIsOlder();
  const wait = pathname === "/home" ? undefined : fresh;
  return (
    <div role="log" aria-label="Notices" className={classes.place}>
      {older && (
        <div className={classes.notice}>
          <p>Golden Rule was updated. Load the page again once you are done with what you are typing.</p>
          <button type="button" className="plain underlined" onClick={() => location.reload()}>
            Load again
          </button>
        </div>
      )}
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
