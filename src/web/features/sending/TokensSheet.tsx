import { Button, Checkbox, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import { dateAndTimeOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { WideTable } from "../../shared/WideTable";
import classes from "./Sending.module.css";
import { ShownOnce } from "./ShownOnce";

/** Tokens by which programs fetch hand-offs and tell what came back. */
export function TokensSheet() {
  const cache = useQueryClient();
  const tokens = useQuery(queries.tokens);
  const [name, setName] = useState("");
  const [scopes, setScopes] = useState<string[]>([]);
  const [made, setMade] = useState<string>();
  const { queryKey } = queries.tokens;
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/tokens", { body: { id: newId(), name, scopes } })),
    onSuccess: (answer) => {
      cache.setQueryData(queryKey, answer.list);
      setMade(answer.token);
      setName("");
      setScopes([]);
    },
  });
  const revoke = useMutation({
    mutationFn: (id: string) => ask(api.DELETE("/api/tokens/{id}", { params: { path: { id } } })),
    onSuccess: (answer) => cache.setQueryData(queryKey, answer),
  });
  if (!tokens.data) {
    return <Pending query={tokens} what="The tokens" />;
  }
  const words = (scope: string) => tokens.data.scopes.find((s) => s.scope === scope)?.words ?? scope;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <section aria-label="API tokens" className={classes.sheet}>
      <p className="soft">
        A token lets a program find and fetch what was handed off, or tell what readers did. It opens nothing else, and works until it is
        revoked.
      </p>
      <form onSubmit={submit} className={classes.line}>
        <TextInput label="What is it for?" required maxLength={60} value={name} onChange={(e) => setName(e.currentTarget.value)} />
        <Checkbox.Group label="It may" value={scopes} onChange={setScopes}>
          <div className={classes.checks}>
            {tokens.data.scopes.map((s) => (
              <Checkbox key={s.scope} value={s.scope} label={s.words} />
            ))}
          </div>
        </Checkbox.Group>
        <Button type="submit" loading={make.isPending} disabled={!name.trim() || scopes.length === 0}>
          Create a token
        </Button>
      </form>
      {(make.error ?? revoke.error) && <p role="alert">■ {(make.error ?? revoke.error)?.message}</p>}
      {made && (
        <ShownOnce what="The token" secret={made} onDone={() => setMade(undefined)}>
          <pre>{`TOKEN=${made}
curl -H "Authorization: Bearer $TOKEN" ${location.origin}/api/hand-offs
curl -H "Authorization: Bearer $TOKEN" -O ${location.origin}/api/hand-offs/ID/files/mustache/index.html`}</pre>
        </ShownOnce>
      )}
      {tokens.data.all.length === 0 && <p>No program has a token.</p>}
      {tokens.data.all.length > 0 && (
        <WideTable label="API tokens" className={classes.table}>
          <thead>
            <tr>
              <th scope="col">For</th>
              <th scope="col">May</th>
              <th scope="col">Created</th>
              <th scope="col">Last used</th>
              <th scope="col">
                <span className="only-heard">Acts</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {tokens.data.all.map((token) => (
              <tr key={token.id}>
                <td>
                  <b>{token.name}</b> <code>{token.beginning}…</code>
                </td>
                <td>{token.scopes.map(words).join(", ")}</td>
                <td>
                  {token.by.name}, {dateAndTimeOf(token.madeAt)}
                </td>
                <td>{token.usedAt ? dateAndTimeOf(token.usedAt) : <span className="soft">never</span>}</td>
                <td>
                  {token.revokedAt ? (
                    <span className="soft">revoked {dateAndTimeOf(token.revokedAt)}</span>
                  ) : (
                    <button type="button" className="plain underlined" onClick={() => revoke.mutate(token.id)}>
                      Revoke <span className="only-heard">{token.name}</span>
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </WideTable>
      )}
    </section>
  );
}
