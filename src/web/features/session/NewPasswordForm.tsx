import { Button, PasswordInput } from "@mantine/core";
import { type FormEvent, useState } from "react";

interface Props {
  label: string;
  fault?: string;
  busy: boolean;
  onChosen: (password: string) => void;
}

const least = 12;

/** A password that is chosen for the first time, or anew. */
export function NewPasswordForm({ label, fault, busy, onChosen }: Props) {
  const [password, setPassword] = useState("");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onChosen(password);
  };
  return (
    <form onSubmit={submit} style={{ display: "grid", gap: 16 }}>
      <PasswordInput
        label="New password"
        description={`At least ${least} characters; several words that do not belong together are good.`}
        autoComplete="new-password"
        required
        autoFocus
        minLength={least}
        value={password}
        error={fault}
        visibilityToggleButtonProps={{ "aria-label": "Show the password" }}
        onChange={(e) => setPassword(e.currentTarget.value)}
      />
      <Button type="submit" loading={busy} disabled={password.length < least}>
        {label}
      </Button>
    </form>
  );
}

/** Person and token of a link that came by mail. They stand behind the #, which no server on the way sees. */
export function linkParts() {
  const said = new URLSearchParams(location.hash.slice(1));
  return { person: said.get("person") ?? "", token: said.get("token") ?? "" };
}
