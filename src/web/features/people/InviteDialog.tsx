import { Button, Checkbox, Modal, NativeSelect, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, ask, type Problem } from "../../api/client";
import type { Role, Team, TeamRole } from "../../api/types";
import { newId } from "../../shared/ids";
import { toggled } from "../../shared/useLiveField";
import classes from "./PeopleRoom.module.css";
import { roles } from "./roleWords";

interface Props {
  teams: Team[];
  onInvited: (id: string) => void;
  onClose: () => void;
}

/** Invites someone by mail: their address, their name, what they will be. */
export default function InviteDialog({ teams, onInvited, onClose }: Props) {
  const cache = useQueryClient();
  const id = useRef(newId());
  const [email, setEmail] = useState("");
  const [name, setName] = useState("");
  const [team, setTeam] = useState("");
  const [held, setHeld] = useState<Role[]>(["author"]);
  const inTeams: TeamRole[] = team ? held.map((role) => ({ team, role })) : [];
  const invite = useMutation({
    mutationFn: () => ask(api.POST("/api/accounts", { body: { id: id.current, email, name, roles: team ? [] : held, inTeams } })),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["accounts"] });
      void cache.invalidateQueries({ queryKey: ["teams"] });
      onInvited(id.current);
    },
  });
  const problem = invite.error as Problem | null;
  const of = (field: string) => (problem?.more.piece === field ? problem.message : undefined);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    invite.mutate();
  };
  return (
    <Modal opened onClose={onClose} title="Invite someone" closeButtonProps={{ "aria-label": "Close" }}>
      <form className={classes.form} onSubmit={submit}>
        <TextInput
          label="Email address"
          type="email"
          required
          data-autofocus
          value={email}
          error={of("email")}
          onChange={(e) => setEmail(e.currentTarget.value)}
        />
        <TextInput label="Name" required maxLength={80} value={name} error={of("name")} onChange={(e) => setName(e.currentTarget.value)} />
        <NativeSelect
          label="Their roles hold"
          value={team}
          onChange={(e) => setTeam(e.currentTarget.value)}
          data={[{ value: "", label: "everywhere" }, ...teams.map((t) => ({ value: t.id, label: `in ${t.name}` }))]}
        />
        <fieldset className={classes.roles}>
          <legend className="only-heard">Roles</legend>
          {roles.map(({ role, name: label }) => (
            <Checkbox key={role} label={label} checked={held.includes(role)} onChange={() => setHeld(toggled(held, role))} />
          ))}
        </fieldset>
        {problem && !problem.more.piece && <p role="alert">■ {problem.message}</p>}
        <Button type="submit" loading={invite.isPending} disabled={!email.trim() || !name.trim()}>
          Send the invitation
        </Button>
      </form>
    </Modal>
  );
}
