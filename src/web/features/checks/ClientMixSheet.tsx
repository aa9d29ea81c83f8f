import { NumberInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import classes from "./ChecksRoom.module.css";
import type { Policy } from "./useCheckPolicy";

/** How many of a hundred readers use each mail client. */
export function ClientMixSheet({ policy }: { policy: Policy }) {
  const known = useQuery(queries.mailClients);
  const { answer } = policy;
  if (!answer || !known.data) {
    return null;
  }
  const mix = answer.policy.clients;
  const total = Object.values(mix).reduce((sum, share) => sum + share, 0);
  const set = (key: string, share: number | undefined) => {
    const { [key]: _, ...rest } = mix;
    policy.set({ ...answer.policy, clients: share ? { ...rest, [key]: share } : rest });
  };
  return (
    <section aria-label="Mail clients">
      <p className={classes.about}>
        How many of a hundred readers use each client: your sending platform's reports tell. What is left out of an email is counted by it.{" "}
        <b role="status">{total === 0 ? "Nothing is set: every client counts alike." : `${Math.round(total * 10) / 10} of 100 set.`}</b>
      </p>
      <ul className={classes.clients}>
        {known.data.clients.map((client) => (
          <li key={client.key}>
            <Share name={client.name} value={mix[client.key]} disabled={!answer.mayChange} onSet={(share) => set(client.key, share)} />
          </li>
        ))}
      </ul>
      <p className="soft">
        What clients support: {known.data.source}, as of {known.data.dated}.
      </p>
    </section>
  );
}

function Share(props: { name: string; value: number | undefined; disabled: boolean; onSet: (share: number | undefined) => void }) {
  const { name, value, disabled, onSet } = props;
  const [typed, setTyped] = useState<string>();
  const commit = () => {
    if (typed !== undefined) {
      const share = Number.parseFloat(typed);
      setTyped(undefined);
      if ((share || undefined) !== value) {
        onSet(Number.isFinite(share) ? share : undefined);
      }
    }
  };
  return (
    <NumberInput
      label={name}
      data-set={value !== undefined}
      min={0}
      max={100}
      decimalScale={1}
      disabled={disabled}
      value={typed ?? value ?? ""}
      onChange={(next) => setTyped(String(next))}
      onBlur={commit}
      onKeyDown={(e) => e.key === "Enter" && commit()}
    />
  );
}
