import { Button, Modal, PasswordInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Problem } from "../../api/client";
import classes from "./PasswordDialog.module.css";

const least = 12;

/** Changes one's own password. Everywhere else one is signed out by it. */
export default function PasswordDialog({ onClose }: { onClose: () => void }) {
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const change = useMutation({
    mutationFn: () => ask(api.POST("/api/session/password", { body: { old, new: next } })),
  });
  const problem = change.error as Problem | null;
  const of = (field: string) => (problem?.more.piece === field ? problem.message : undefined);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate();
  };
  return (
    <Modal opened onClose={onClose} title="Change your password" closeButtonProps={{ "aria-label": "Close" }}>
      {change.isSuccess ? (
        <div className={classes.form}>
          <p role="status">Your password is changed. You are signed out everywhere but here.</p>
          <Button onClick={onClose} data-autofocus>
            Close
          </Button>
        </div>
      ) : (
        <form onSubmit={submit} className={classes.form}>
          <PasswordInput
            label="Current password"
            autoComplete="current-password"
            required
            data-autofocus
            value={old}
            error={of("old")}
            onChange={(e) => setOld(e.currentTarget.value)}
          />
          <PasswordInput
            label="New password"
            description={`At least ${least} characters.`}
            autoComplete="new-password"
            required
            minLength={least}
            value={next}
            error={of("new")}
            onChange={(e) => setNext(e.currentTarget.value)}
          />
          {problem && !problem.more.piece && <p role="alert">{problem.message}</p>}
          <Button type="submit" loading={change.isPending} disabled={!old || next.length < least}>
            Change it
          </Button>
        </form>
      )}
    </Modal>
  );
}
