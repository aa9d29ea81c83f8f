import type { Job } from "../api/types";
import { numberOf } from "./format";
import classes from "./JobProgress.module.css";

/** How far long work is, in steps and in words. */
export function JobProgress({ job, name }: { job: Job; name: string }) {
  const share = job.total > 0 ? job.done / job.total : 0;
  return (
    <div className={classes.job}>
      <progress aria-label={name} value={job.total > 0 ? share : undefined} max={1} />
      <span className="soft" role="status">
        {job.state === "waiting" ? "Waiting for its turn" : job.total > 0 ? `${numberOf(job.done)} of ${numberOf(job.total)}. ${job.step}` : "Beginning"}
      </span>
    </div>
  );
}
