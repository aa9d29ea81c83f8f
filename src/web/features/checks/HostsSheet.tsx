import { Button, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import classes from "./ChecksRoom.module.css";
import type { Policy } from "./useCheckPolicy";

/** The hosts that links may lead to. */
export function HostsSheet({ policy }: { policy: Policy }) {
  const [host, setHost] = useState("");
  const { answer } = policy;
  if (!answer) {
    return null;
  }
  const { hosts } = answer.policy;
  const add = (event: FormEvent) => {
    event.preventDefault();
    const named = host
      .trim()
      .toLowerCase()
      .replace(/^https?:\/\//, "")
      .replace(/\/.*$/, "");
    if (named && !hosts.includes(named)) {
      policy.set({ ...answer.policy, hosts: [...hosts, named].sort() });
    }
    setHost("");
  };
  return (
    <section aria-label="Where links may lead" className={classes.hosts}>
      <p className={classes.about}>
        {hosts.length === 0
          ? "Links may lead anywhere. Name the first host, and a link elsewhere is found."
          : "A link to any other host is found. Subdomains count with their host."}
      </p>
      <ul>
        {hosts.map((h) => (
          <li key={h}>
            {h}
            {answer.mayChange && (
              <button
                type="button"
                className="plain underlined"
                onClick={() => policy.set({ ...answer.policy, hosts: hosts.filter((x) => x !== h) })}
              >
                Take off<span className="only-heard"> {h}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {answer.mayChange && (
        <form onSubmit={add}>
          <TextInput label="Host" placeholder="larkfell.example.org" value={host} onChange={(e) => setHost(e.currentTarget.value)} />
          <Button type="submit" variant="default">
            Add
          </Button>
        </form>
      )}
    </section>
  );
}
