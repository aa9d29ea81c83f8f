import { Button } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Send, SendAct } from "../../api/types";
import { countOf, numberOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { BatchChart } from "./BatchChart";
import classes from "./Sending.module.css";
import { lastAt, timeIn } from "./times";

const states = { running: "", paused: "Paused", stopping: "Stops after this batch", stopped: "Stopped", done: "Done" };

/** One send: its plan, how far it is, and what can be done about it. */
export function SendPart({ handOff, send, now, may }: { handOff: string; send: Send; now: string; may: boolean }) {
  const cache = useQueryClient();
  const act = useMutation({
    mutationFn: (body: { act: SendAct }) =>
      ask(api.POST("/api/hand-offs/{id}/sends/{send}/act", { params: { path: { id: handOff, send: send.id } }, body })),
    onSuccess: (answer) => cache.setQueryData(queries.sending(handOff).queryKey, answer),
    onError: () => cache.invalidateQueries({ queryKey: queries.sending(handOff).queryKey }),
  });
  const total = send.batches.reduce((sum, b) => sum + b.size, 0);
  const sum = (of: "sent" | "refused" | "leftOut" | "unknown") => send.batches.reduce((all, b) => all + b[of], 0);
  const first = send.batches[0]?.begunAt ?? send.batches[0]?.at ?? send.askedAt;
  const begun = send.batches.some((b) => b.begunAt);
  const missed = sum("refused") + sum("unknown") + sum("leftOut");
  return (
    <section aria-label={`Sent to ${send.listName}`} className={classes.send}>
      <header>
        <h2>{timeIn(send.zone, first)}</h2>
        <span className="soft">
          {countOf(total, "reader")} of “{send.listName}” by {send.destination}, {countOf(send.batches.length, "batch", "batches")}
          {send.batches.length > 1 && ` of ${numberOf(send.rule.size)}, every ${countOf(send.rule.minutes, "minute")}`}
        </span>
      </header>
      <BatchChart send={send} now={now} />
      <p role="status">
        {states[send.state] && <b>{states[send.state]}. </b>}
        {numberOf(sum("sent"))} sent, {numberOf(sum("refused"))} refused
        {sum("leftOut") > 0 && `, ${numberOf(sum("leftOut"))} unsubscribed and left out`}
        {sum("unknown") > 0 && `, ${numberOf(sum("unknown"))} not known`}
        {send.waiting > 0 && `, ${numberOf(send.waiting)} waiting`}
        {send.state === "done" && `, ended ${timeIn(send.zone, lastAt(send))}`}.
      </p>
      {send.answer && <p className={classes.fault}>▲ {send.answer}</p>}
      {may && (
        <div className={classes.acts}>
          {send.state === "running" && <Act name="Pause" act="pause" />}
          {send.state === "paused" && <Act name="Resume" act="resume" />}
          {(send.state === "running" || send.state === "paused") && (
            <Act name={begun && send.state === "running" ? "Stop after this batch" : "Stop"} act="stop-after-batch" />
          )}
          {send.state === "running" && <span className="soft">Nobody gets it twice, also after a fault.</span>}
        </div>
      )}
      {act.error && <p role="alert">■ {act.error.message}</p>}
      {missed > 0 && may && <NotReached handOff={handOff} send={send.id} count={missed} />}
    </section>
  );

  function Act({ name, act: what }: { name: string; act: SendAct }) {
    return (
      <Button variant="default" loading={act.isPending && act.variables.act === what} onClick={() => act.mutate({ act: what })}>
        {name}
      </Button>
    );
  }
}

const why = { refused: "refused", unknown: "not known", unsubscribed: "unsubscribed", waiting: "", sending: "", sent: "" };

function NotReached({ handOff, send, count }: { handOff: string; send: string; count: number }) {
  const [open, setOpen] = useState(false);
  const list = useQuery({
    queryKey: ["hand-off", handOff, "not-reached", send, count],
    enabled: open,
    queryFn: () => ask(api.GET("/api/hand-offs/{id}/sends/{send}/not-reached", { params: { path: { id: handOff, send } } })),
  });
  return (
    <details className={classes.missed} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>{countOf(count, "reader who did", "readers who did")} not get it</summary>
      {open &&
        (list.data ? (
          <table className={classes.table}>
            <thead className="only-heard">
              <tr>
                <th scope="col">Address</th>
                <th scope="col">Why</th>
                <th scope="col">What was said</th>
              </tr>
            </thead>
            <tbody>
              {list.data.map((one) => (
                <tr key={one.address}>
                  <td>{one.address}</td>
                  <td>{why[one.state]}</td>
                  <td className="soft">{one.answer}</td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : (
          <Pending query={list} what="The list" />
        ))}
    </details>
  );
}
