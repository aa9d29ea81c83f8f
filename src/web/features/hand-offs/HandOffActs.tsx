import { Button, Popover, Textarea } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { HandOff } from "../../api/types";
import { dateAndTimeOf } from "../../shared/format";
import { HandOffExport } from "./HandOffExport";
import classes from "./HandOffRoom.module.css";

/** Export, correct, withdraw. */
export function HandOffActs({ handOff }: { handOff: HandOff }) {
  const { record } = handOff;
  return (
    <div className={classes.acts}>
      {record.to && <SendToOne handOff={handOff} />}
      <HandOffExport handOff={handOff} />
      {handOff.correct.allowed && <CorrectButton email={record.email} />}
      {handOff.withdraw.allowed && <Withdraw handOff={handOff} />}
    </div>
  );
}

/** Opens the email again: what was handed off stays until the next, which names it. */
export function CorrectButton({ email }: { email: string }) {
  const cache = useQueryClient();
  const go = useNavigate();
  const correct = useMutation({
    mutationFn: () => ask(api.POST("/api/emails/{id}/correction", { params: { path: { id: email } } })),
    onSuccess: (answer) => {
      cache.setQueryData(queries.handOffs(email).queryKey, answer);
      go(`/emails/${email}`);
    },
  });
  return (
    <>
      {correct.error && (
        <span role="alert" className={classes.fault}>
          {correct.error.message}
        </span>
      )}
      <Button
        variant="default"
        loading={correct.isPending}
        title="Opens the email again. What was handed off stays until the next, which names it."
        onClick={() => correct.mutate()}
      >
        Correct
      </Button>
    </>
  );
}

const sent = {
  waiting: "",
  sending: "Being sent…",
  sent: "Sent",
  refused: "Not taken",
  unknown: "Not known whether it was taken",
  unsubscribed: "",
};

/** Sends the frozen message to the one person it is written to: once. */
function SendToOne({ handOff }: { handOff: HandOff }) {
  const cache = useQueryClient();
  const { id, to } = handOff.record;
  const send = useMutation({
    mutationFn: () => ask(api.POST("/api/hand-offs/{id}/sending", { params: { path: { id } } })),
    onSuccess: (answer) => cache.setQueryData(queries.handOff(id).queryKey, answer),
    onError: () => cache.invalidateQueries({ queryKey: queries.handOff(id).queryKey }),
  });
  const { sending } = handOff;
  return (
    <>
      <span role="status" className={send.error || (sending && sending.state !== "sent") ? classes.fault : "soft"}>
        {send.error?.message ??
          (sending ? `${sent[sending.state]}${sending.state === "sent" ? ` ${dateAndTimeOf(sending.at)}` : `. ${sending.answer}`}` : "")}
      </span>
      {handOff.send.allowed && (
        <Button loading={send.isPending} onClick={() => send.mutate()}>
          Send to {to?.name}
        </Button>
      )}
    </>
  );
}

function Withdraw({ handOff }: { handOff: HandOff }) {
  const cache = useQueryClient();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const { id } = handOff.record;
  const withdraw = useMutation({
    mutationFn: () => ask(api.POST("/api/hand-offs/{id}/withdrawal", { params: { path: { id } }, body: { reason } })),
    onSuccess: (answer) => cache.setQueryData(queries.handOff(id).queryKey, answer),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    withdraw.mutate(undefined, { onSuccess: () => setOpen(false) });
  };
  return (
    <Popover opened={open} onChange={setOpen} width={340} position="bottom-end" trapFocus>
      <Popover.Target>
        <Button variant="default" onClick={() => setOpen(!open)}>
          Withdraw
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <form onSubmit={submit} className={classes.form}>
          <Textarea
            label="Why is it withdrawn?"
            description="Its page is closed. The record stays, with your reason; it cannot be brought back, a correction is a new hand-off."
            autosize
            minRows={2}
            maxLength={2000}
            data-autofocus
            value={reason}
            onChange={(e) => setReason(e.currentTarget.value)}
          />
          {withdraw.error && <p role="alert">■ {withdraw.error.message}</p>}
          <Button type="submit" size="xs" loading={withdraw.isPending} disabled={!reason.trim()}>
            Withdraw
          </Button>
        </form>
      </Popover.Dropdown>
    </Popover>
  );
}
