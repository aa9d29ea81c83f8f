import { useState } from "react";
import { Link } from "react-router";
import classes from "./Steps.module.css";
import { keepList, readListOrNone } from "./storedList";

interface Step {
  name: string;
  done: boolean;
  to?: string;
}

/** A short list of what to do first, each with a mark when it is done. Whoever has read it puts it away for good. */
export function Steps({ title, name, all }: { title: string; name: string; all: Step[] }) {
  const [hidden, setHidden] = useState(() => readListOrNone<string>("steps-hidden").includes(name));
  if (hidden) {
    return null;
  }
  const hide = () => {
    keepList("steps-hidden", [...readListOrNone<string>("steps-hidden"), name]);
    setHidden(true);
  };
  return (
    <section className={classes.steps} aria-label={title}>
      <h2>{title}</h2>
      <ol>
        {all.map((step) => (
          <li key={step.name} data-done={step.done}>
            <span aria-hidden="true">{step.done ? "☑" : "☐"}</span>
            <span>
              {step.to && !step.done ? <Link to={step.to}>{step.name}</Link> : step.name}
              {step.done && <span className="only-heard">, done</span>}
            </span>
          </li>
        ))}
      </ol>
      <button type="button" className="plain underlined" onClick={hide}>
        Don't show again
      </button>
    </section>
  );
}
