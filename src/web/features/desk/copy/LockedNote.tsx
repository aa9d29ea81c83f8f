import type { DeskBlock, DeskRow } from "../../../api/types";
import { blocksOf } from "../DeskStore";
import classes from "./RowSheet.module.css";

/** What cannot be changed here, why, and who may. The words are the server's. */
export function LockedNote({ row, sealed }: { row: DeskRow; sealed: DeskBlock[] }) {
  const looks = blocksOf(row).filter((b) => b.look.length > 0 && !b.lookAllowance.allowed);
  const reasons = new Set<string | null | undefined>([
    ...sealed.map((b) => b.content.reason),
    ...looks.map((b) => b.lookAllowance.reason),
    row.move.allowed ? null : row.move.reason,
  ]);
  reasons.delete(null);
  reasons.delete(undefined);
  if (reasons.size === 0) {
    return null;
  }
  return (
    <div className={classes.sealed}>
      <svg width="12" height="14" viewBox="0 0 12 14" fill="none" stroke="currentColor" aria-hidden="true">
        <path d="M1 6.5h10v7H1zM3 6.5V4a3 3 0 0 1 6 0v2.5" />
      </svg>
      <div>
        {[...reasons].map((reason) => (
          <p key={reason}>{reason}</p>
        ))}
      </div>
    </div>
  );
}
