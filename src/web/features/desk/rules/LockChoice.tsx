import { Checkbox, NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../../api/queries";
import type { Aspect, Lock } from "../../../api/types";
import { countOf } from "../../../shared/format";
import { toggled } from "../../../shared/useLiveField";
import classes from "./LockChoice.module.css";

const roles = [
  { value: "author", label: "Authors" },
  { value: "designer", label: "Designers" },
  { value: "lead", label: "Leads" },
] as const;

interface Props {
  label: string;
  lock: { aspect: Aspect; own: Lock | null; inherited: Lock; from: string };
  onChange: (lock: Lock | null | ((now: Lock | null) => Lock | null)) => void;
}

/** Who may change one aspect of a piece: what is inherited and from where, or anyone, some, nobody. */
export function LockChoice({ label, lock, onChange }: Props) {
  const own = lock.own;
  const people = useQuery({ ...queries.people, enabled: own?.kind === "reserved" });
  const teams = useQuery({ ...queries.teams, enabled: own?.kind === "reserved" });
  const choose = (kind: string) =>
    onChange(
      kind === "" ? null : kind === "reserved" ? { kind, roles: ["designer"], teams: [], people: [] } : { kind: kind as "open" | "sealed" },
    );
  // From the latest: two ticks may come before the first is answered.
  const change = (make: (reserved: Extract<Lock, { kind: "reserved" }>) => Lock) =>
    onChange((now) => (now?.kind === "reserved" ? make(now) : now));
  return (
    <div className={classes.lock}>
      <NativeSelect
        label={label}
        value={own?.kind ?? ""}
        data={[
          { value: "", label: `inherited from ${lock.from}: ${inWords(lock.inherited)}` },
          { value: "open", label: "open to all who edit" },
          { value: "reserved", label: "reserved for some" },
          { value: "sealed", label: "locked" },
        ]}
        onChange={(e) => choose(e.currentTarget.value)}
      />
      {own?.kind === "reserved" && (
        <fieldset className={classes.who}>
          <legend className="only-heard">{label}, reserved for</legend>
          {roles.map((role) => (
            <Checkbox
              key={role.value}
              label={role.label}
              checked={own.roles?.includes(role.value) ?? false}
              onChange={() => change((now) => ({ ...now, roles: toggled(now.roles ?? [], role.value) }))}
            />
          ))}
          {teams.data?.map((team) => (
            <Checkbox
              key={team.id}
              label={`${team.name} (team)`}
              checked={own.teams?.includes(team.id) ?? false}
              onChange={() => change((now) => ({ ...now, teams: toggled(now.teams ?? [], team.id) }))}
            />
          ))}
          {people.data?.map((person) => (
            <Checkbox
              key={person.id}
              label={person.name}
              checked={own.people?.includes(person.id) ?? false}
              onChange={() => change((now) => ({ ...now, people: toggled(now.people ?? [], person.id) }))}
            />
          ))}
        </fieldset>
      )}
    </div>
  );
}

export function inWords(lock: Lock): string {
  switch (lock.kind) {
    case "open":
      return "open";
    case "sealed":
      return "locked";
    case "reserved":
      return `for ${[
        ...(lock.roles ?? []).map((r) => `${r}s`),
        ...(lock.teams?.length ? [countOf(lock.teams.length, "team")] : []),
        ...(lock.people?.length ? [`${lock.people.length} by name`] : []),
      ].join(" and ")}`;
  }
}
