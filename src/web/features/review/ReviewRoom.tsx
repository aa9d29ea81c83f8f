import type { UseQueryResult } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { CommentPlace, CommentThread, Review, ReviewAgainst, ReviewComparison, SeenChange } from "../../api/types";
import { EmailLine } from "../../shared/EmailLine";
import { countOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { severities } from "../../shared/SeverityMark";
import { Approvals } from "./Approvals";
import { ChangeList } from "./ChangeList";
import { DecideActs } from "./DecideActs";
import { ReviewProofs } from "./ReviewProofs";
import classes from "./ReviewRoom.module.css";
import { Threads } from "./Threads";
import { useReview } from "./useReview";

const states = { draft: "draft", "in-review": "in review", approved: "approved", "handed-off": "handed off" };

/** What reviewers see: what changed, before and now, who approves, and what was said. */
export default function ReviewRoom() {
  const { id = "" } = useParams();
  const [params] = useSearchParams();
  const { review, comparison, comments } = useReview(id, params.get("against") as ReviewAgainst | null);
  return (
    <div className={classes.room}>
      {review.data ? (
        <Reviewing key={id} review={review.data} comparison={comparison} threads={comments.data ?? []} />
      ) : (
        <main className={classes.pending}>
          <Pending query={review} what="The review" />
        </main>
      )}
    </div>
  );
}

interface Props {
  review: Review;
  comparison: UseQueryResult<ReviewComparison>;
  threads: CommentThread[];
}

function Reviewing({ review, comparison, threads }: Props) {
  const [params, setParams] = useSearchParams();
  const [chosen, setChosen] = useState<SeenChange>();
  const [thread, setThread] = useState<string | undefined>(params.get("comment") ?? undefined);
  const [place, setPlace] = useState<CommentPlace>();
  const open = useMemo(() => threads.filter((t) => !t.resolvedAt), [threads]);
  useKeys(comparison.data, chosen, setChosen, () => chosen && setPlace(placeOfChange(chosen)));
  return (
    <>
      <EmailLine email={review} title={`Review of ${review.name}`} state={stateOf(review)}>
        <Link to={`/emails/${review.id}`} className="underlined">
          Open on the desk
        </Link>
        <DecideActs review={review} hash={comparison.data?.hash} />
      </EmailLine>
      <nav className={classes.changesColumn} aria-label="What changed">
        {comparison.data ? (
          <ChangeList
            comparison={comparison.data}
            against={review.against}
            chosen={chosen}
            onAgainst={(next) => {
              setChosen(undefined);
              setParams({ against: next }, { replace: true });
            }}
            onChoose={setChosen}
          />
        ) : (
          <Pending query={comparison} what="What changed" />
        )}
        <Findings review={review} />
      </nav>
      <main className={classes.proofsColumn} aria-label="Before and now">
        {comparison.data && (
          <ReviewProofs
            email={review.id}
            comparison={comparison.data}
            chosen={chosen}
            pins={open.flatMap((t, at) => (t.gone || !t.place.row ? [] : [{ id: t.id, number: at + 1, place: t.place }]))}
            pin={thread}
            onPin={setThread}
            onPlace={setPlace}
          />
        )}
      </main>
      <aside className={classes.saidColumn} aria-label="Approvals and comments">
        <Approvals review={review} />
        {review.overtaken && (
          <p className={classes.overtaken}>
            ▲ It was approved, and something it takes by reference has changed since. Look at what changed by itself; the same people are
            asked again.
          </p>
        )}
        {review.carriedOver && (
          <p className="soft">
            Something it takes by reference has changed since the approval; by the rule of its campaign type that carries over.
          </p>
        )}
        <Threads
          email={review.id}
          threads={threads}
          chosen={thread}
          onChoose={setThread}
          place={place && comparison.data && { ...place, ...namesOf(place, comparison.data) }}
          onPlaceLeft={() => setPlace(undefined)}
        />
        <p className={classes.holds}>
          An approval holds for exactly what is seen here: words, pictures, files, and what the email takes from the house style, saved rows
          and snippets. What changes afterwards is shown and asked again.
        </p>
      </aside>
    </>
  );
}

function stateOf(review: Review): string {
  const round = review.rounds[0];
  const changed = review.state === "draft" && round?.state === "approved" ? ", changed since it was approved" : "";
  return `${states[review.state]}${review.overtaken ? ", overtaken" : ""}${changed}`;
}

function Findings({ review }: { review: Review }) {
  const { obstacles, warnings, advice } = review;
  return (
    <p className={classes.findings}>
      <Link to={`/emails/${review.id}/findings`}>
        <span>
          <span aria-hidden>{severities.stop.mark}</span> {countOf(obstacles.blockers, severities.stop.one, severities.stop.many)}
        </span>
        <span>
          <span aria-hidden>{severities.warn.mark}</span> {countOf(warnings.length, severities.warn.one, severities.warn.many)}
        </span>
        <span>
          <span aria-hidden>{severities.advise.mark}</span> {countOf(advice, severities.advise.one, severities.advise.many)}
        </span>
      </Link>
      {obstacles.toFill > 0 && <span>{obstacles.toFill} to fill</span>}
      {warnings
        .filter((w) => w.answer)
        .map((w) => (
          <span key={w.key}>
            ▲ {w.message} <q>{w.answer}</q>
          </span>
        ))}
      <span className="soft">↑ ↓ next change, C comment on it</span>
    </p>
  );
}

const placeOfChange = (change: SeenChange): CommentPlace => ({
  row: change.row,
  block: change.block,
  field: change.field,
  start: 0,
  length: 0,
});

function namesOf(place: CommentPlace, comparison: ReviewComparison) {
  const field = comparison.fields.find((f) => f.row === place.row && f.block === place.block && (!place.field || f.field === place.field));
  const change = comparison.changes.find((c) => c.row === place.row && c.block === place.block);
  return {
    name: field?.name ?? change?.name ?? "this row",
    quote: place.length > 0 ? (field?.words.slice(place.start, place.start + place.length) ?? "") : "",
  };
}

/** Arrows go from change to change, C begins a comment on the one that is chosen. */
function useKeys(
  comparison: ReviewComparison | undefined,
  chosen: SeenChange | undefined,
  choose: (next: SeenChange) => void,
  comment: () => void,
) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        !comparison ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest("input, textarea, select, [role=dialog], [contenteditable]")
      ) {
        return;
      }
      // In the order they are listed: what changed by itself comes last.
      const all = [...comparison.changes.filter((c) => !c.byItself), ...comparison.changes.filter((c) => c.byItself)];
      const at = chosen ? all.indexOf(chosen) : -1;
      const next = event.key === "ArrowDown" ? all[at + 1] : event.key === "ArrowUp" ? all[at - 1] : undefined;
      if (next) {
        event.preventDefault();
        choose(next);
      }
      if (event.key === "c" && chosen) {
        event.preventDefault();
        comment();
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [comparison, chosen, choose, comment]);
}
