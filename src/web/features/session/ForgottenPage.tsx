import { Button, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { EntryPage } from "./EntryPage";

/** Asks for a link to a new password. What it says is the same whether there is such an address or not. */
export function ForgottenPage() {
  const [email, setEmail] = useState("");
  const reset = useMutation({ mutationFn: () => ask(api.POST("/api/password-resets", { body: { email: email.trim() } })) });
  return (
    <EntryPage title="New password">
      {reset.isSuccess ? (
        <p role="status">If somebody has the address {email.trim()}, a link to a new password is on its way there. It works for an hour.</p>
      ) : (
        <form
          style={{ display: "grid", gap: 16 }}
          onSubmit={(event) => {
            event.preventDefault();
            reset.mutate();
          }}
        >
          <TextInput
            label="Email address"
            description="A link to a new password goes there."
            type="email"
            autoComplete="username"
            required
            autoFocus
            value={email}
            onChange={(e) => setEmail(e.currentTarget.value)}
            error={reset.error?.message}
          />
          <Button type="submit" loading={reset.isPending}>
            Send the link
          </Button>
        </form>
      )}
      <Link to="/">Back to signing in</Link>
    </EntryPage>
  );
}
