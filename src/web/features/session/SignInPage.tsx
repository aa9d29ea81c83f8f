import { Button, PasswordInput, TextInput } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { Mark } from "../../shared/Mark";
import classes from "./SignInPage.module.css";

export function SignInPage() {
  const queries = useQueryClient();
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [fault, setFault] = useState<string>();
  const [busy, setBusy] = useState(false);

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      const session = await ask(api.POST("/api/session", { body: { email: email.trim(), password } }));
      queries.setQueryData(["session"], session);
    } catch (problem) {
      setFault((problem as Error).message);
      setBusy(false);
    }
  };

  return (
    <main className={classes.page}>
      <form className={classes.sheet} onSubmit={submit}>
        <div className={classes.brand}>
          <Mark width={51} />
          <h1>Golden Rule</h1>
        </div>
        <p className={classes.motto}>An email holds only what its author may change. The rest follows the house.</p>
        <TextInput
          label="Email address"
          type="email"
          autoComplete="username"
          required
          autoFocus
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
    </main>
  );
}
