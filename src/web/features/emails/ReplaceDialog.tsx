import { Checkbox, Modal, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { CopyPlanView } from "./CopyPlanView";

/** Finds words all over the email and puts others in their place. */
export default function ReplaceDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const [asked, setAsked] = useState({ find: "", with: "", matchCase: false, wholeWords: false });
  const [settled] = useDebouncedValue(asked, 250);
  const plan = useQuery({
    queryKey: ["replacements", desk.id, desk.revision, settled],
    enabled: settled.find.length > 0,
    queryFn: () => ask(api.POST("/api/emails/{id}/replacements", { params: { path: { id: desk.id } }, body: settled })),
    placeholderData: (former) => former,
  });
  return (
    <Modal opened onClose={onClose} title="Find and replace" size={680} closeButtonProps={{ "aria-label": "Close" }}>
      <div className={classes.form}>
        <div className={classes.pair}>
          <TextInput
            data-autofocus
            label="Find"
            maxLength={200}
            value={asked.find}
            onChange={(e) => setAsked({ ...asked, find: e.currentTarget.value })}
          />
          <TextInput
            label="Replace with"
            maxLength={2000}
            value={asked.with}
            onChange={(e) => setAsked({ ...asked, with: e.currentTarget.value })}
          />
        </div>
        <div className={classes.pair}>
          <Checkbox
            label="Match case"
            checked={asked.matchCase}
            onChange={(e) => setAsked({ ...asked, matchCase: e.currentTarget.checked })}
          />
          <Checkbox
            label="Whole words only"
            checked={asked.wholeWords}
            onChange={(e) => setAsked({ ...asked, wholeWords: e.currentTarget.checked })}
          />
        </div>
        {plan.error && <p role="alert">{plan.error.message}</p>}
        {settled.find && plan.data && <CopyPlanView plan={plan.data} act="Replace in all of these" onDone={onClose} />}
      </div>
    </Modal>
  );
}
