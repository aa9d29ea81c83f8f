import type { ReactNode } from "react";
import { Link } from "react-router";
import classes from "./EmailLine.module.css";
import { Mark } from "./Mark";

interface Props {
  email: { name: string; campaignTypeName: string };
  /** Of the window. */
  title: string;
  /** How it stands, in words. */
  state: string;
  /** What can be done. */
  children: ReactNode;
}

/** An email's own line across the top of a room that is about it alone. */
export function EmailLine({ email, title, state, children }: Props) {
  return (
    <header className={classes.line}>
      <Link to="/emails" aria-label="Golden Rule, to the emails" className={classes.mark}>
        <Mark />
      </Link>
      <div className={classes.path}>
        <title>{`${title} · Golden Rule`}</title>
        <span className="soft">{email.campaignTypeName}</span>
        <span aria-hidden>/</span>
        <h1>{email.name}</h1>
        <span className={classes.state} role="status">
          {state}
        </span>
      </div>
      {children}
    </header>
  );
}
