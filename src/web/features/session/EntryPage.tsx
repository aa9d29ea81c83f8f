import type { ReactNode } from "react";
import { Mark } from "../../shared/Mark";
import classes from "./SignInPage.module.css";

/** The sheet that stands alone where nobody is signed in. */
export function EntryPage({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className={classes.page}>
      <title>{`${title} · Golden Rule`}</title>
      <div className={classes.sheet}>
        <div className={classes.brand}>
          <Mark width={51} />
          <h1>Golden Rule</h1>
        </div>
        {children}
      </div>
    </main>
  );
}
