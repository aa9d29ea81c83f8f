import type { ReactNode } from "react";
import { NavLink } from "react-router";
import classes from "./RoomHead.module.css";

interface Props {
  name: string;
  /** Where the room is. */
  at: string;
  parts: readonly { to: string; name: string }[];
  /** The part that is shown. */
  shown?: string;
  children?: ReactNode;
}

/** The name of a room and the parts of it. */
export function RoomHead({ name, at, parts, shown, children }: Props) {
  const part = parts.find((p) => p.to === shown)?.name;
  return (
    <header className={classes.head}>
      <title>{[...(part && part !== name ? [part] : []), name, "Golden Rule"].join(" · ")}</title>
      <h1>{name}</h1>
      <nav aria-label={name} className={classes.parts}>
        {parts.map((part) => (
          <NavLink key={part.to} to={`${at}/${part.to}`} className={part.to === shown ? classes.here : classes.part}>
            {part.name}
          </NavLink>
        ))}
      </nav>
      {children}
    </header>
  );
}
