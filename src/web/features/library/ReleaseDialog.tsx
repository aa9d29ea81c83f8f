import { Button, Checkbox, Modal, Textarea } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { useDeskContext } from "../desk/useDesk";
import { MasterReach } from "./MasterReach";

/** Makes a numbered release of a template or saved row, with a note of what changed. */
export default function ReleaseDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const { store } = useDeskContext();
  const [note, setNote] = useState("");
  const [required, setRequired] = useState(false);
  const number = (desk.about?.release ?? 0) + 1;
  const release = useMutation({
    mutationFn: () =>
      ask(
        api.POST(`/api/${store.kind}/{id}/releases` as "/api/templates/{id}/releases", {
          params: { path: { id: desk.id } },
          headers: { "If-Match": `"${desk.revision}"` },
          body: { note, required },
        }),
      ),
    onSuccess: async () => {
      await store.refresh();
      onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    release.mutate();
  };
  return (
    <Modal opened onClose={onClose} title={`Release ${number} of ${desk.name}`} size={820} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        <p>
          {desk.kind === "row"
            ? "New emails and templates get this release. What uses an earlier one keeps it until someone takes the update."
            : "New emails start from this release. Emails made before keep theirs until someone takes the update."}
        </p>
        {number > 1 && <MasterReach desk={desk} room={store.kind === "rows" ? "rows" : "templates"} />}
        <Textarea
          data-autofocus
          label="What changed"
          required
          maxLength={500}
          autosize
          minRows={2}
          value={note}
          onChange={(e) => setNote(e.currentTarget.value)}
          error={release.error?.message}
        />
        <Checkbox
          label="Required update: emails on an older release cannot go out"
          checked={required}
          onChange={(e) => setRequired(e.currentTarget.checked)}
        />
        <Button type="submit" loading={release.isPending}>
          Release
        </Button>
      </form>
    </Modal>
  );
}
