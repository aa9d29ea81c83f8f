import { Button, PasswordInput, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, type Problem } from "../../api/client";
import { queries } from "../../api/queries";
import { EntryPage } from "./EntryPage";
import { beginSession } from "./useSession";

const fields = [
  { name: "code", label: "Code", about: "The start command printed it.", auto: "off" },
  { name: "organisation", label: "Organisation", about: "Whose library this is.", auto: "organization" },
  { name: "name", label: "Your name", about: undefined, auto: "name" },
  { name: "email", label: "Your email address", about: undefined, auto: "username" },
] as const;

/** Where nobody is here yet: whose library it is, and who leads it first. */
export function SetupPage() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  const [said, setSaid] = useState({ code: "", organisation: "", name: "", email: "", password: "" });
  const setUp = useMutation({
    mutationFn: () => ask(api.POST("/api/setup", { body: said })),
    onSuccess: async (session) => {
      await cache.invalidateQueries({ queryKey: queries.server.queryKey });
      beginSession(cache, session);
      navigate("/templates", { replace: true });
    },
  });
  const problem = setUp.error as Problem | null;
  const of = (field: string) => (problem?.more.piece === field ? problem.message : undefined);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setUp.mutate();
  };
  return (
    <EntryPage title="A new library">
      <p>Nobody is here yet. You become the first lead, and invite the others.</p>
      <form onSubmit={submit} style={{ display: "grid", gap: 16 }}>
        {fields.map(({ name, label, about, auto }) => (
          <TextInput
            key={name}
            label={label}
            description={about}
            autoComplete={auto}
            required
            value={said[name]}
            error={of(name)}
            onChange={(e) => setSaid({ ...said, [name]: e.currentTarget.value })}
          />
        ))}
        <PasswordInput
          label="Password"
          description="At least 12 characters."
          autoComplete="new-password"
          required
          minLength={12}
          value={said.password}
          error={of("password")}
          visibilityToggleButtonProps={{ "aria-label": "Show the password" }}
          onChange={(e) => setSaid({ ...said, password: e.currentTarget.value })}
        />
        {problem && !problem.more.piece && <p role="alert">■ {problem.message}</p>}
        <Button type="submit" loading={setUp.isPending}>
          Begin
        </Button>
      </form>
    </EntryPage>
  );
}
