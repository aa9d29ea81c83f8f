import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../../api/client";
import type { Aspect, Lock } from "../../../api/types";
import { toggled } from "../../../shared/useLiveField";
import classes from "./LockChoice.module.css";

const roles = [
  { value: "author", label: "Authors" },
  { value: "designer", label: "Designers" },
  { value: "lead", label: "Leads" },
] as const;

interface Props {
  label: string;
  lock: { aspect: Aspect; own: Lock | null; holds: Lock };
  onChange: (lock: Lock | null | ((now: Lock | null) => Lock | null)) => void;
}

/** Who may change one aspect of a piece: as around it, anyone, some, or nobody. */
export function LockChoice({ label, lock, onChange }: Props) {
  const own = lock.own;
  const people = useQuery({
    queryKey: ["people"],
    queryFn: () => ask(api.GET("/api/people")),
    enabled: own?.kind === "reserved",
    staleTime: 60_000,
  });
  const choose = (kind: string) =>
    onChange(kind === "" ? null : kind === "reserved" ? { kind, roles: ["designer"], people: [] } : { kind: kind as "open" | "sealed" });
  // From the latest: two ticks may come before the first is answered.
  const change = (make: (reserved: Extract<Lock, { kind: "reserved" }>) => Lock) =>
    onChange((now) => (now?.kind === "reserved" ? make(now) : now));
  return (
    <div className={classes.lock}>
      <label>
        {label}
        <select value={own?.kind ?? ""} onChange={(e) => choose(e.currentTarget.value)}>
          <option value="">inherited: {inWords(lock.holds)}</option>
          <option value="open">open to all who edit</option>
          <option value="reserved">reserved for some</option>
          <option value="sealed">locked</option>
        </select>
      </label>
      {own?.kind === "reserved" && (
        <fieldset className={classes.who}>
          <legend className="only-heard">{label}, reserved for</legend>
          {roles.map((role) => (
            <label key={role.value}>
              <input
                type="checkbox"
                checked={own.roles?.includes(role.value) ?? false}
                onChange={() => change((now) => ({ ...now, roles: toggled(now.roles ?? [], role.value) }))}
              />
              {role.label}
            </label>
          ))}
          {people.data?.map((person) => (
            <label key={person.id}>
              <input
                type="checkbox"
                checked={own.people?.includes(person.id) ?? false}
                onChange={() => change((now) => ({ ...now, people: toggled(now.people ?? [], person.id) }))}
              />
              {person.name}
            </label>
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
      return `for ${[...(lock.roles ?? []).map((r) => `${r}s`), ...(lock.people?.length ? [`${lock.people.length} by name`] : [])].join(" and ")}`;
  }
}
