import { Button, Popover, Textarea } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { HandOff } from "../../api/types";
import { HandOffExport } from "./HandOffExport";
import classes from "./HandOffRoom.module.css";

/** Export, correct, withdraw. */
export function HandOffActs({ handOff }: { handOff: HandOff }) {
  const { record } = handOff;
  const cache = useQueryClient();
  const go = useNavigate();
  const correct = useMutation({
    mutationFn: () => ask(api.POST("/api/emails/{id}/correction", { params: { path: { id: record.email } } })),
    onSuccess: (answer) => {
      cache.setQueryData(queries.handOffs(record.email).queryKey, answer);
      go(`/emails/${record.email}`);
    },
  });
  return (
    <div className={classes.acts}>
      {correct.error && (
        <p role="alert" className={classes.fault}>
          {correct.error.message}
        </p>
      )}
      <HandOffExport handOff={handOff} />
      {handOff.correct.allowed && (
        <Button
          variant="default"
          loading={correct.isPending}
          title="Opens the email again. This hand-off stays until the next, which names it."
          onClick={() => correct.mutate()}
        >
          Correct
        </Button>
      )}
      {handOff.withdraw.allowed && <Withdraw handOff={handOff} />}
    </div>
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
