import { Button } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../../api/queries";
import { EntryPage } from "./EntryPage";
import { SetupPage } from "./SetupPage";
import { SignInForm } from "./SignInForm";
import classes from "./SignInPage.module.css";
import { beginSession } from "./useSession";

export function SignInPage() {
  const cache = useQueryClient();
  const server = useQuery(queries.server);
  if (server.data?.empty) {
    return <SetupPage />;
  }
  return (
    <EntryPage title="Sign in">
      <p className={classes.motto}>An email holds only what its author may change. The rest follows the house.</p>
      <SignInForm onSignedIn={(session) => beginSession(cache, session)} />
      {server.data?.openId && (
        <Button component="a" href="/api/session/openid" variant="default" fullWidth>
          Sign in with {server.data.openId}
        </Button>
      )}
      {location.hash === "#sign-in-failed" && (
        <p role="alert">
          ■ Signing in with {server.data?.openId} failed. Try again; if it fails again, ask a lead whether you are invited with that
          address.
        </p>
      )}
      {server.data?.mail && <Link to="/forgotten">I forgot my password</Link>}
    </EntryPage>
  );
}
