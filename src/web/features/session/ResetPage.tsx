import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { EntryPage } from "./EntryPage";
import { linkParts, NewPasswordForm } from "./NewPasswordForm";

/** Where the link to a new password leads. */
export function ResetPage() {
  const [link] = useState(linkParts);
  const reset = useMutation({
    mutationFn: (password: string) => ask(api.POST("/api/password-resets/acceptance", { body: { ...link, password } })),
  });
  return (
    <EntryPage title="New password">
      {reset.isSuccess ? (
        <p role="status">Your password is changed, and you are signed out everywhere. Sign in with the new one.</p>
      ) : (
        <NewPasswordForm label="Change it" fault={reset.error?.message} busy={reset.isPending} onChosen={reset.mutate} />
      )}
      <Link to="/">To signing in</Link>
    </EntryPage>
  );
}
