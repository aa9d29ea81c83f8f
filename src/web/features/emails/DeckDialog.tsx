import { Button, FileButton, Modal } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { CopyPlanView } from "./CopyPlanView";

/** All words of the email as one table: out to a writer or translator, and back in. */
export default function DeckDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const plan = useMutation({
    mutationFn: async (file: File) =>
      ask(api.POST("/api/emails/{id}/copy-deck", { params: { path: { id: desk.id } }, body: { text: await file.text() } })),
  });
  const at = `/api/emails/${desk.id}/copy-deck`;
  return (
    <Modal opened onClose={onClose} title="Copy deck" size={760} closeButtonProps={{ "aria-label": "Close" }}>
      <div className={classes.form}>
        <p>
          Every place you may write at, with its instruction, its limit and what it says. Change only the words: the key says where they go
          when the deck comes back.
        </p>
        <p className={classes.links}>
          <Button component="a" href={at} variant="default">
            Export as a table (.csv)
          </Button>
          <Button component="a" href={`${at}?markdown=true`} variant="default">
            Export as text (.md)
          </Button>
          <FileButton onChange={(file) => file && plan.mutate(file)} accept=".csv,.md,text/csv,text/markdown">
            {(props) => (
              <Button {...props} loading={plan.isPending}>
                Import a copy deck
              </Button>
            )}
          </FileButton>
        </p>
        {plan.error && <p role="alert">{plan.error.message}</p>}
        {plan.data && <CopyPlanView plan={plan.data} act="Use these texts" onDone={onClose} />}
      </div>
    </Modal>
  );
}
