import { Button, PasswordInput, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import type { Session } from "../../api/types";

/** Address and password, and what they come to. */
export function SignInForm({ onSignedIn }: { onSignedIn: (session: Session) => void }) {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [fault, setFault] = useState<string>();
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      onSignedIn(await ask(api.POST("/api/session", { body: { email: email.trim(), password } })));
    } catch (problem) {
      setFault((problem as Error).message);
      setBusy(false);
    }
  };
  return (
    <form onSubmit={submit} style={{ display: "grid", gap: 16 }}>
      <TextInput
        label="Email address"
        type="email"
        autoComplete="username"
        required
        autoFocus
        data-autofocus
        value={email}
        onChange={(e) => setEmail(e.currentTarget.value)}
      />
      <PasswordInput
        label="Password"
        autoComplete="current-password"
        required
        value={password}
        onChange={(e) => setPassword(e.currentTarget.value)}
        visibilityToggleButtonProps={{ "aria-label": "Show the password" }}
        error={fault}
      />
      <Button type="submit" loading={busy} fullWidth>
        Sign in
      </Button>
    </form>
  );
}
