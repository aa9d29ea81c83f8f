import { useQueryClient } from "@tanstack/react-query";
import { Mark } from "../../shared/Mark";
import { SignInForm } from "./SignInForm";
import classes from "./SignInPage.module.css";

export function SignInPage() {
  const cache = useQueryClient();
  return (
    <main className={classes.page}>
      <title>Sign in · Golden Rule</title>
      <div className={classes.sheet}>
        <div className={classes.brand}>
          <Mark width={51} />
          <h1>Golden Rule</h1>
        </div>
        <p className={classes.motto}>An email holds only what its author may change. The rest follows the house.</p>
        <SignInForm onSignedIn={(session) => cache.setQueryData(["session"], session)} />
      </div>
    </main>
  );
}
