import { Button, Checkbox, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { WebhookEntry, WebhookKind, WebhookRequest } from "../../api/types";
import { dateAndTimeOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { WideTable } from "../../shared/WideTable";
import classes from "./Sending.module.css";
import { ShownOnce } from "./ShownOnce";
import { useSeenVersion } from "./useSeenVersion";

/** Addresses that are told of what happens to emails. */
export function WebhooksSheet() {
  const cache = useQueryClient();
  const list = useQuery(queries.webhooks);
  const [secret, setSecret] = useState<string>();
  const again = () => cache.invalidateQueries({ queryKey: queries.webhooks.queryKey });
  const [added, setAdded] = useState(0);
  if (!list.data) {
    return <Pending query={list} what="The webhooks" />;
  }
  return (
    <section aria-label="Webhooks" className={classes.sheet}>
      <p className="soft">
        An address that is told when something happens to an email: a chat, a calendar, a program of your own. What it gets is signed as
        Standard Webhooks have it, and tried for a day.
      </p>
      {/* After each that is added, an empty one. */}
      <HookForm
        key={added}
        known={list.data.kinds}
        store={async (body) => {
          const { secret: shown } = await ask(api.POST("/api/webhooks", { body }));
          setSecret(shown);
          setAdded(added + 1);
          void again();
        }}
      />
      {secret && <ShownOnce what="The signing secret" secret={secret} onDone={() => setSecret(undefined)} />}
      {list.data.all.length === 0 && <p>There is no webhook yet.</p>}
      {list.data.all.map((hook) => (
        <Hook key={hook.id} hook={hook} known={list.data.kinds} onSecret={setSecret} onChanged={again} />
      ))}
    </section>
  );
}

interface FormProps {
  of?: WebhookEntry;
  known: WebhookKind[];
  store: (body: WebhookRequest) => Promise<void>;
}

/** What a webhook is called, where it is, and what it is told of. */
function HookForm({ of, known, store }: FormProps) {
  const [id] = useState(of?.id ?? newId());
  const [name, setName] = useState(of?.name ?? "");
  const [address, setAddress] = useState(of?.address ?? "");
  const [kinds, setKinds] = useState(of?.kinds ?? []);
  const cache = useQueryClient();
  const { version, onError } = useSeenVersion(of?.version, async () => {
    const { all } = await cache.fetchQuery({ ...queries.webhooks, staleTime: 0 });
    return all.find((hook) => hook.id === id)?.version;
  });
  const sent = useMutation({ mutationFn: () => store({ id, name, address, kinds, version }), onError });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    sent.mutate();
  };
  return (
    <>
      <form onSubmit={submit} className={classes.line} aria-label={of ? `Change ${of.name}` : "Add a webhook"}>
        <TextInput label="Name" required maxLength={60} value={name} onChange={(e) => setName(e.currentTarget.value)} />
        <TextInput
          label="Address"
          className={classes.address}
          required
          placeholder="https://hooks.example.org/emails"
          value={address}
          onChange={(e) => setAddress(e.currentTarget.value)}
        />
        <Checkbox.Group label="It is told when" value={kinds} onChange={setKinds}>
          <div className={classes.checks}>
            {known.map((k) => (
              <Checkbox key={k.kind} value={k.kind} label={k.words} />
            ))}
          </div>
        </Checkbox.Group>
        <Button type="submit" loading={sent.isPending} disabled={!name.trim() || !address.trim() || kinds.length === 0}>
          {of ? "Save the change" : "Add a webhook"}
        </Button>
      </form>
      {sent.error && <p role="alert">■ {sent.error.message}</p>}
    </>
  );
}

const states = { waiting: "waits", delivered: "delivered", "given-up": "given up" };

interface HookProps {
  hook: WebhookEntry;
  known: WebhookKind[];
  onSecret: (secret: string) => void;
  onChanged: () => void;
}

function Hook({ hook, known, onSecret, onChanged }: HookProps) {
  const cache = useQueryClient();
  const path = { params: { path: { id: hook.id } } };
  const log = useQuery(queries.deliveries(hook.id));
  const { queryKey } = queries.deliveries(hook.id);
  const [changing, setChanging] = useState(false);
  const told = known.filter((k) => hook.kinds.includes(k.kind)).map((k) => k.words);
  const roll = useMutation({
    mutationFn: () => ask(api.POST("/api/webhooks/{id}/secret", path)),
    onSuccess: (answer) => {
      onSecret(answer.secret);
      onChanged();
    },
  });
  const retire = useMutation({ mutationFn: () => ask(api.DELETE("/api/webhooks/{id}", path)), onSuccess: onChanged });
  const trial = useMutation({
    mutationFn: () => ask(api.POST("/api/webhooks/{id}/trial", path)),
    onSuccess: (answer) => cache.setQueryData(queryKey, answer),
  });
  const again = useMutation({
    mutationFn: (delivery: string) =>
      ask(api.POST("/api/webhooks/{id}/deliveries/{delivery}/again", { params: { path: { id: hook.id, delivery } } })),
    onSuccess: (answer) => cache.setQueryData(queryKey, answer),
  });
  const fault = roll.error ?? retire.error ?? trial.error ?? again.error;
  return (
    <article className={classes.hook} aria-label={hook.name}>
      <h2>{hook.name}</h2>
      <p>
        {hook.address} <span className="soft">{told.join(", ").toLowerCase()}</span>
      </p>
      {hook.formerUntil && new Date(hook.formerUntil) > new Date() && (
        <p className="soft">The secret before signs too until {dateAndTimeOf(hook.formerUntil)}.</p>
      )}
      <div className={classes.acts}>
        <Button size="xs" variant="default" loading={trial.isPending} onClick={() => trial.mutate()}>
          Try it
        </Button>
        <Button size="xs" variant="default" aria-expanded={changing} onClick={() => setChanging(!changing)}>
          Change
        </Button>
        <Button size="xs" variant="default" loading={roll.isPending} onClick={() => roll.mutate()}>
          Roll the secret
        </Button>
        <Button size="xs" variant="default" loading={retire.isPending} onClick={() => retire.mutate()}>
          Retire
        </Button>
      </div>
      {changing && (
        <HookForm
          of={hook}
          known={known}
          store={async (body) => {
            cache.setQueryData(queries.webhooks.queryKey, await ask(api.PUT("/api/webhooks/{id}", { ...path, body })));
            setChanging(false);
          }}
        />
      )}
      {fault && <p role="alert">■ {fault.message}</p>}
      {log.data && log.data.length > 0 && (
        <WideTable label="Webhooks" className={classes.table}>
          <caption>What it was told</caption>
          <thead className="only-heard">
            <tr>
              <th scope="col">When</th>
              <th scope="col">What</th>
              <th scope="col">State</th>
              <th scope="col">Acts</th>
            </tr>
          </thead>
          <tbody>
            {log.data.map((one) => (
              <tr key={one.id}>
                <td>{dateAndTimeOf(one.at)}</td>
                <td>
                  <details>
                    <summary>{one.kind}</summary>
                    <pre>{one.body}</pre>
                  </details>
                </td>
                <td className={one.state === "delivered" ? undefined : classes.fault}>
                  {states[one.state]}
                  {one.answer && `: ${one.answer}`}
                  {one.nextTry && one.tries > 0 && ` Again ${dateAndTimeOf(one.nextTry)}.`}
                </td>
                <td>
                  <button type="button" className="plain underlined" onClick={() => again.mutate(one.id)}>
                    Send again
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </WideTable>
      )}
    </article>
  );
}
