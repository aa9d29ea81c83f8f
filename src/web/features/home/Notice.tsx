import { Link } from "react-router";
import type { Wait } from "../../api/types";
import classes from "./Notice.module.css";
import { acts } from "./waits";

/** Something that has just come to wait for whoever is signed in. It stays until it is answered or closed, and takes no focus. */
export function Notice({ wait, onClose }: { wait?: Wait; onClose: () => void }) {
  return (
    <div role="status" className={classes.place}>
      {wait && (
        <div className={classes.notice}>
          <p>
            <b>{wait.name}</b> {wait.text}
          </p>
          <Link to={acts[wait.kind].to(wait)} className="underlined" onClick={onClose}>
            {acts[wait.kind].name}
          </Link>
          <button type="button" className="plain" aria-label="Close the notice" onClick={onClose}>
            ✕
          </button>
        </div>
      )}
    </div>
  );
}
