import { Button, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Tester } from "../../api/types";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { WideTable } from "../../shared/WideTable";
import { useIsEverywhere } from "../session/useSession";
import classes from "./TestSendDialog.module.css";

/** Whom outside the library tests may be sent to. */
export function TestersSheet() {
  const cache = useQueryClient();
  const leads = useIsEverywhere("lead");
  const testers = useQuery(queries.testers);
  const [name, setName] = useState("");
  const [address, setAddress] = useState("");
  const set = useMutation({
    mutationFn: (body: Tester[]) => ask(api.PUT("/api/testers", { body })),
    onSuccess: (answer) => cache.setQueryData(queries.testers.queryKey, answer),
  });
  const [removed, setRemoved] = useState<Tester>();
  if (!testers.data) {
    return <Pending query={testers} what="The testers" />;
  }
  const all = testers.data;
  const add = (event: FormEvent) => {
    event.preventDefault();
    set.mutate([...all, { id: newId(), name, address }], {
      onSuccess: () => {
        setName("");
        setAddress("");
      },
    });
  };
  return (
    <section className={classes.testers} aria-label="Testers">
      <p className="soft">
        People outside the library whom authors may send tests to: a colleague with another mail program, an agency, a mailbox that is only
        looked at. Everyone in the library can be sent one anyway.
      </p>
      {all.length === 0 && <p>Nobody yet.</p>}
      {all.length > 0 && (
        <WideTable label="Testers" className={classes.results}>
          <thead className="only-heard">
            <tr>
              <th scope="col">Name</th>
              <th scope="col">Address</th>
              <th scope="col">Remove</th>
            </tr>
          </thead>
          <tbody>
            {all.map((tester) => (
              <tr key={tester.id}>
                <td>{tester.name}</td>
                <td>{tester.address}</td>
                <td>
                  {leads && (
                    <button
                      type="button"
                      className="plain underlined"
                      onClick={() =>
                        set.mutate(
                          all.filter((t) => t.id !== tester.id),
                          { onSuccess: () => setRemoved(tester) },
                        )
                      }
                    >
                      Remove <span className="only-heard">{tester.name}</span>
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </WideTable>
      )}
      {removed && (
        <p role="status">
          {removed.name} was removed.{" "}
          <button
            type="button"
            className="plain underlined"
            onClick={() => set.mutate([...all, removed], { onSuccess: () => setRemoved(undefined) })}
          >
            Undo
          </button>
        </p>
      )}
      {set.error && <p role="alert">■ {set.error.message}</p>}
      {leads ? (
        <form onSubmit={add}>
          <TextInput label="Name" required value={name} onChange={(e) => setName(e.currentTarget.value)} />
          <TextInput label="Address" type="email" required value={address} onChange={(e) => setAddress(e.currentTarget.value)} />
          <Button type="submit" loading={set.isPending} disabled={!name.trim() || !address.trim()}>
            Add
          </Button>
        </form>
      ) : (
        <p className="soft">Leads of the whole library name them.</p>
      )}
    </section>
  );
}
