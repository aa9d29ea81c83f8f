import { Button, Modal } from "@mantine/core";
import { useEffect } from "react";
import { api, ask } from "../../api/client";
import { JobProgress } from "../../shared/JobProgress";
import { useJob } from "../../shared/useJob";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";

/** Prints the sheet that an email is signed off on, and hands it over when it is done. */
export default function ApprovalSheetDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const { start, job, fault } = useJob((id) =>
    ask(api.POST("/api/emails/{id}/sign-off", { params: { path: { id: desk.id } }, body: { id } })),
  );
  useEffect(() => start(), [start]);
  const failed = fault ?? (job?.state === "failed" ? job.step : undefined);
  return (
    <Modal opened onClose={onClose} title="Approval sheet (PDF)" closeButtonProps={{ "aria-label": "Close" }}>
      <div className={classes.form}>
        <p>
          Subject and sender, the releases it is made from, the findings, and the email on a desktop and a phone, as it is at this moment.
        </p>
        {failed ? (
          <>
            <p role="alert">{failed}</p>
            <Button variant="default" onClick={() => start()}>
              Try again
            </Button>
          </>
        ) : job?.state === "done" ? (
          <Button component="a" href={`/api/jobs/${job.id}/result`} data-autofocus>
            Download {job.result}
          </Button>
        ) : (
          job && <JobProgress job={job} name="Printing the sheet" />
        )}
      </div>
    </Modal>
  );
}
