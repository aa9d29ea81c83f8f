import { Button, Modal, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { dayAndMonth } from "../../shared/format";
import { newId } from "../../shared/ids";
import classes from "./StartDialog.module.css";

/** What an email begins with: a template's newest release, the email before it in a series, or one it is a copy of. */
export type Origin =
  | { kind: "template"; id: string; name: string }
  | { kind: "email"; id: string; name: string; nextName: string; next?: boolean };

/** Names a new email and starts it. */
export function StartDialog({ origin, onClose }: { origin: Origin; onClose: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState(
    origin.kind === "template" ? `${origin.name}, ${dayAndMonth()}` : origin.next ? origin.nextName : `Copy of ${origin.name}`,
  );
  // One id for this dialog: asked twice, the server makes one email.
  const id = useRef(newId());
  const start = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/emails", {
          body: {
            id: id.current,
            name,
            template: origin.kind === "template" ? origin.id : null,
            email: origin.kind === "email" ? origin.id : null,
            next: origin.kind === "email" && origin.next === true,
          },
        }),
      ),
    onSuccess: (email) => navigate(`/emails/${email.id}`),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    start.mutate();
  };
  const title =
    origin.kind === "template" ? `Start from ${origin.name}` : origin.next ? `The next after ${origin.name}` : `Copy ${origin.name}`;
  return (
    <Modal opened onClose={onClose} title={title} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.start}>
        {origin.kind === "email" && origin.next && (
          <p>Rows, looks and what always stands are kept. What was written last time is there too, each marked until you renew it.</p>
        )}
        <TextInput
          data-autofocus
          onFocus={(e) => e.currentTarget.select()}
          label="Name"
          description="For your colleagues; readers never see it."
          required
          maxLength={200}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          error={start.error?.message}
        />
        <Button type="submit" loading={start.isPending}>
          Start
        </Button>
      </form>
    </Modal>
  );
}
