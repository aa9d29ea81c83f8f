import type { Approval, Review } from "../../api/types";
import { dateAndTimeOf } from "../../shared/format";
import classes from "./ReviewRoom.module.css";

/** Who approves, and who has; in a round the approvals of it, before one those that the campaign type asks for. */
export function Approvals({ review }: { review: Review }) {
  const round = review.rounds[0];
  const open = round?.state === "open" || review.state === "approved";
  const approvals = open && round ? round.approvals : review.needs;
  return (
    <section aria-label="Who approves">
      <h2>Who approves</h2>
      {approvals.length === 0 && <p className="soft">Nobody has to. Whoever asks has said that it is done.</p>}
      <dl className={classes.approvals}>
        {approvals.map((approval) => (
          <div key={approval.name}>
            <dt>{approval.name}</dt>
            <dd>
              <Standing approval={approval} />
            </dd>
          </div>
        ))}
      </dl>
      {round && (
        <p className="soft">
          {round.byItself
            ? `Asked again ${dateAndTimeOf(round.askedAt)}: what was approved changed by itself.`
            : `${round.askedBy.name} asked ${dateAndTimeOf(round.askedAt)}.`}
        </p>
      )}
      {round?.note && <blockquote className={classes.note}>{round.note}</blockquote>}
      <Former review={review} />
    </section>
  );
}

function Standing({ approval }: { approval: Approval }) {
  if (!approval.by || !approval.at) {
    const names = approval.may.map((p) => p.name).join(" or ");
    return <>{names ? `waits for ${names}` : "nobody is left who may"}</>;
  }
  if (approval.verdict === "ask-for-changes") {
    return (
      <>
        <b>{approval.by.name}</b> asked for changes, {dateAndTimeOf(approval.at)}
        <blockquote className={classes.note}>{approval.reason}</blockquote>
      </>
    );
  }
  return (
    <>
      <b>{approval.by.name}</b> approved, {dateAndTimeOf(approval.at)}
      {!approval.holds && ", what they saw has changed"}
      {approval.sameBrowserAs.length > 0 && (
        <p>▲ In a browser that {approval.sameBrowserAs.map((p) => p.name).join(" and ")} uses too, who wrote in it.</p>
      )}
      {approval.reason && <blockquote className={classes.note}>{approval.reason}</blockquote>}
    </>
  );
}

const ends = {
  open: "open",
  approved: "approved",
  "changes-asked": "changes asked for",
  "taken-back": "taken back",
  overtaken: "approved, then overtaken",
};

/** Rounds before, shortly: how each ended and why. */
function Former({ review }: { review: Review }) {
  const former = review.rounds.filter((r, at) => at > 0 || (r.state !== "open" && review.state !== "approved"));
  return former.length === 0 ? null : (
    <details className={classes.former}>
      <summary>Earlier rounds, {former.length}</summary>
      <ol>
        {former.map((round) => (
          <li key={round.number}>
            {round.number}: {ends[round.state]}
            {round.approvals
              .filter((a) => a.by)
              .map((a) => (
                <div key={a.name} className="soft">
                  {a.name}: {a.by?.name} {a.verdict === "approve" ? "approved" : "asked for changes"}
                  {a.reason && `: “${a.reason}”`}
                </div>
              ))}
          </li>
        ))}
      </ol>
    </details>
  );
}
