import { Link, useLocation } from "react-router";
import { keyNames } from "../shared/keys";
import classes from "./Shell.module.css";

/** An address that leads nowhere. */
export function NotFound() {
  const { pathname } = useLocation();
  return (
    <div className={classes.failed}>
      <title>Not found · Golden Rule</title>
      <h1>There is nothing at this address</h1>
      <p>
        <code>{pathname}</code> may have been cut short, or what stood there was removed. Look in <Link to="/templates">Templates</Link> or{" "}
        <Link to="/emails">Emails</Link>, or press {keyNames("Ctrl", "K")} and type its name.
      </p>
    </div>
  );
}
