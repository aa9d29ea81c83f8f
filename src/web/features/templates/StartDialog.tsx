import { Button, Modal, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import type { TemplateEntry } from "../../api/types";
import { newId } from "../../shared/ids";
import classes from "./TemplatesRoom.module.css";

/** Starts an email from a template's newest release. */
export function StartDialog({ template, onClose }: { template: TemplateEntry; onClose: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  // One id for this dialog: asked twice, the server makes one email.
  const id = useRef(newId());
  const start = useMutation({
    mutationFn: () => ask(api.POST("/api/emails", { body: { id: id.current, template: template.id, name } })),
    onSuccess: (email) => navigate(`/emails/${email.id}`),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    start.mutate();
  };
  return (
    <Modal opened onClose={onClose} title={`Start from ${template.name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.start}>
        <TextInput
          data-autofocus
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
