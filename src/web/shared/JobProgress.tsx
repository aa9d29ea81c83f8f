import type { Job } from "../api/types";
import { numberOf } from "./format";
import classes from "./JobProgress.module.css";

/** How far long work is, in steps and in words. */
export function JobProgress({ job, name }: { job: Job; name: string }) {
  return (
    <div className={classes.job}>
      <progress aria-label={name} value={job.total > 0 ? job.done / job.total : undefined} max={1} />
      <span className="soft" role="status">
        {told(job)}
      </span>
    </div>
  );
}

function told({ state, done, total, step }: Job) {
  if (state === "waiting") {
    return "Waiting for its turn";
  }
  return total > 0 ? `${numberOf(done)} of ${numberOf(total)}. ${step}` : "Beginning";
}
