import { Button, PasswordInput, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { api, askAlone, type Problem } from "../../api/client";
import type { Session } from "../../api/types";

/** Address and password, a code where the account wants one, and what they come to. */
export function SignInForm({ onSignedIn }: { onSignedIn: (session: Session) => void }) {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState<string>();
  const [fault, setFault] = useState<string>();
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setFault(undefined);
    try {
      onSignedIn(await askAlone(() => api.POST("/api/session", { body: { email: email.trim(), password, code: code ?? null } })));
    } catch (problem) {
      if ((problem as Problem).type === "second-factor") {
        setCode("");
      } else {
        setFault((problem as Error).message);
      }
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
        onChange={(e) => {
          setEmail(e.currentTarget.value);
          setCode(undefined);
        }}
      />
      <PasswordInput
        label="Password"
        autoComplete="current-password"
        required
        value={password}
        onChange={(e) => setPassword(e.currentTarget.value)}
        visibilityToggleButtonProps={{ "aria-label": "Show the password" }}
        error={code === undefined && fault}
      />
      {code !== undefined && (
        <TextInput
          label="Code"
          description="Six digits from your authenticator app, or a recovery code."
          autoComplete="one-time-code"
          required
          autoFocus
          value={code}
          onChange={(e) => setCode(e.currentTarget.value)}
          error={fault}
        />
      )}
      <Button type="submit" loading={busy} fullWidth>
        Sign in
      </Button>
    </form>
  );
}
