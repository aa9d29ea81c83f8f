import { Button } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Destination, DestinationList } from "../../api/types";
import { dateAndTimeOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { WideTable } from "../../shared/WideTable";
import { DestinationDialog } from "./DestinationDialog";
import classes from "./Sending.module.css";

const pictures = { linked: "pictures linked here", uploaded: "pictures uploaded to it", inside: "pictures inside" };

/** Where hand-offs go: added, tried, retired. */
export function DestinationsSheet() {
  const cache = useQueryClient();
  const list = useQuery(queries.destinations);
  const [open, setOpen] = useState<Destination | "new">();
  const onSuccess = (answer: DestinationList) => cache.setQueryData(queries.destinations.queryKey, answer);
  const trial = useMutation({
    mutationFn: (id: string) => ask(api.POST("/api/destinations/{id}/trial", { params: { path: { id } } })),
    onSuccess,
  });
  const retire = useMutation({
    mutationFn: (id: string) => ask(api.DELETE("/api/destinations/{id}", { params: { path: { id } } })),
    onSuccess,
  });
  if (!list.data) {
    return <Pending query={list} what="The destinations" />;
  }
  const fault = trial.error ?? retire.error;
  return (
    <section aria-label="Destinations" className={classes.sheet}>
      <p className="soft">
        Whatever an approved email is handed off to: a sending platform, a mail server, a webhook, a file to download. Everyone who may hand
        off finds them beside the hand-off.
      </p>
      <p>
        <Button onClick={() => setOpen("new")}>Add a destination</Button>
      </p>
      {list.data.all.length === 0 && <p>None yet. Add the platform that your emails are sent with.</p>}
      {list.data.all.length > 0 && (
        <WideTable label="Destinations" className={classes.table}>
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col">Goes there</th>
              <th scope="col">When it was tried</th>
              <th scope="col">
                <span className="only-heard">Acts</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.data.all.map((one) => (
              <tr key={one.id}>
                <td>
                  <b>{one.name}</b>
                  <br />
                  <span className="soft">{one.kindTitle}</span>
                </td>
                <td>
                  {one.address || (one.takesPushes ? "to whoever downloads it" : "this server’s mail server")}
                  <br />
                  <span className="soft">
                    as {list.data.profiles.find((p) => p.key === one.profile)?.name ?? one.profile}, {pictures[one.pictures]}
                    {one.hasSecret && ", secret kept"}
                  </span>
                </td>
                <td role="status">
                  {one.triedAt ? (
                    <>
                      <span className={one.works ? undefined : classes.fault}>
                        {one.works ? "✓" : "▲"} {one.triedAnswer}
                      </span>
                      <br />
                      <span className="soft">{dateAndTimeOf(one.triedAt)}</span>
                    </>
                  ) : (
                    <span className="soft">not yet</span>
                  )}
                </td>
                <td className={classes.acts}>
                  <Button
                    size="xs"
                    variant="default"
                    loading={trial.isPending && trial.variables === one.id}
                    onClick={() => trial.mutate(one.id)}
                  >
                    Try it<span className="only-heard"> {one.name}</span>
                  </Button>
                  <button type="button" className="plain underlined" onClick={() => setOpen(one)}>
                    Change <span className="only-heard">{one.name}</span>
                  </button>
                  <button type="button" className="plain underlined" onClick={() => retire.mutate(one.id)}>
                    Retire <span className="only-heard">{one.name}</span>
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </WideTable>
      )}
      {fault && <p role="alert">■ {fault.message}</p>}
      {open && <DestinationDialog list={list.data} of={open === "new" ? undefined : open} onClose={() => setOpen(undefined)} />}
    </section>
  );
}
