import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../../api/queries";
import { EntryPage } from "./EntryPage";
import { SetupPage } from "./SetupPage";
import { SignInForm } from "./SignInForm";
import classes from "./SignInPage.module.css";

export function SignInPage() {
  const cache = useQueryClient();
  const server = useQuery(queries.server);
  if (server.data?.empty) {
    return <SetupPage />;
  }
  return (
    <EntryPage title="Sign in">
      <p className={classes.motto}>An email holds only what its author may change. The rest follows the house.</p>
      <SignInForm onSignedIn={(session) => cache.setQueryData(["session"], session)} />
      {server.data?.mail && <Link to="/forgotten">I forgot my password</Link>}
    </EntryPage>
  );
}
