import { Button, Popover, Textarea } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { Review, ReviewVerdict } from "../../api/types";
import HandOffDialog from "../hand-offs/HandOffDialog";
import AskDialog from "./AskDialog";
import classes from "./ReviewRoom.module.css";
import { useKeptText } from "./useKeptText";
import { useReviewAct } from "./useReview";

/**
 * What whoever looks may do: ask, take back, approve, ask for changes.
 * @param hash Of what is seen; undefined: nothing is yet, and nothing is decided.
 */
export function DecideActs({ review, hash = "" }: { review: Review; hash?: string }) {
  const [asking, setAsking] = useState(false);
  const [handing, setHanding] = useState(false);
  const path = { params: { path: { id: review.id } } };
  const decide = useReviewAct(review.id, ({ verdict, reason }: { verdict: ReviewVerdict; reason: string }) =>
    ask(api.POST("/api/emails/{id}/review/decisions", { ...path, body: { verdict, hash, reason } })),
  );
  const back = useReviewAct(review.id, () => ask(api.DELETE("/api/emails/{id}/review/rounds/open", path)));
  const fault = decide.error ?? back.error;
  return (
    <div className={classes.acts}>
      {fault && (
        <p role="alert" className={classes.fault}>
          {fault.message}
        </p>
      )}
      {review.state === "in-review" && (
        <>
          {review.takeBack.allowed && (
            <Button variant="default" loading={back.isPending} onClick={() => back.mutate(undefined)}>
              Take back
            </Button>
          )}
          {review.decide.allowed ? (
            <>
              <AskForChanges
                email={review.id}
                busy={decide.isPending || !hash}
                onAsk={(reason) => decide.mutate({ verdict: "ask-for-changes", reason })}
              />
              <Button loading={decide.isPending} disabled={!hash} onClick={() => decide.mutate({ verdict: "approve", reason: "" })}>
                Approve{review.decidesAs && review.rounds[0] && review.rounds[0].approvals.length > 1 ? ` as ${review.decidesAs}` : ""}
              </Button>
            </>
          ) : (
            !review.takeBack.allowed && <span className={`soft ${classes.why}`}>{review.decide.reason}</span>
          )}
        </>
      )}
      {review.state === "draft" && (
        <>
          <Link to={`/emails/${review.id}`} className="underlined">
            Go on writing
          </Link>
          <Button onClick={() => setAsking(true)}>Ask for approval</Button>
        </>
      )}
      {review.state === "approved" && !review.overtaken && <Button onClick={() => setHanding(true)}>Hand off</Button>}
      {review.state === "handed-off" && (
        <Link to={`/emails/${review.id}/hand-offs`} className="underlined">
          The hand-off
        </Link>
      )}
      {handing && <HandOffDialog email={review.id} onClose={() => setHanding(false)} />}
      {asking && <AskDialog email={review.id} onClose={() => setAsking(false)} />}
    </div>
  );
}

function AskForChanges({ email, busy, onAsk }: { email: string; busy: boolean; onAsk: (reason: string) => void }) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useKeptText(`${email}/changes`);
  const send = (event: FormEvent) => {
    event.preventDefault();
    onAsk(reason);
    setReason("");
    setOpen(false);
  };
  return (
    <Popover opened={open} onChange={setOpen} trapFocus position="bottom-end" width={340}>
      <Popover.Target>
        <Button variant="default" onClick={() => setOpen(!open)}>
          Ask for changes
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <form onSubmit={send} className={classes.form}>
          <Textarea
            label="What is to be changed"
            required
            autosize
            minRows={3}
            maxLength={2000}
            data-autofocus
            value={reason}
            onChange={(e) => setReason(e.currentTarget.value)}
          />
          <p className={classes.formActs}>
            <Button type="submit" size="xs" loading={busy} disabled={!reason.trim()}>
              Ask for changes
            </Button>
          </p>
        </form>
      </Popover.Dropdown>
    </Popover>
  );
}
