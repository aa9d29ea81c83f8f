import { Button, Modal } from "@mantine/core";
import { useEffect } from "react";
import type { Job } from "../../api/types";
import { JobProgress } from "../../shared/JobProgress";
import { useJob } from "../../shared/useJob";
import classes from "../desk/dialogs.module.css";

interface Props {
  /** Asks for the sheet, as the job of that id. */
  print: (id: string) => Promise<Job>;
  /** What is on it. */
  children: string;
  onClose: () => void;
}

/** Prints the sheet that an email is signed off on, and hands it over when it is done. */
export default function ApprovalSheetDialog({ print, children, onClose }: Props) {
  const { start, job, fault } = useJob(print);
  useEffect(() => start(), [start]);
  const failed = fault ?? (job?.state === "failed" ? job.step : undefined);
  return (
    <Modal opened onClose={onClose} title="Approval sheet (PDF)" closeButtonProps={{ "aria-label": "Close" }}>
      <div className={classes.form}>
        <p>{children}</p>
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
