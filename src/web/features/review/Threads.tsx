import { useState } from "react";
import { api, ask } from "../../api/client";
import type { CommentPlace, CommentThread } from "../../api/types";
import { dateAndTimeOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { CommentForm } from "./CommentForm";
import classes from "./ReviewRoom.module.css";
import { useCommentAct } from "./useReview";

interface Props {
  email: string;
  threads: CommentThread[];
  /** The thread that is looked at. */
  chosen?: string;
  onChoose: (id: string) => void;
  /** Where a new comment would be pinned. */
  place?: CommentPlace & { name: string; quote: string };
  onPlaceLeft: () => void;
}

/** What was said about an email, in threads, and where a new one begins. */
export function Threads({ email, threads, chosen, onChoose, place, onPlaceLeft }: Props) {
  const open = threads.filter((t) => !t.resolvedAt);
  const resolved = threads.filter((t) => t.resolvedAt);
  const add = useCommentAct(email, ({ text, mentions }: { text: string; mentions: string[] }) =>
    ask(
      api.POST("/api/emails/{id}/comments", {
        params: { path: { id: email } },
        body: {
          id: newId(),
          text,
          mentions,
          answers: null,
          place: place ? { row: place.row, block: place.block, field: place.field, start: place.start, length: place.length } : null,
        },
      }),
    ),
  );
  return (
    <section aria-label="Comments" className={classes.threads}>
      <h2>Comments</h2>
      {place && (
        <p className={classes.pinning}>
          On <b>{place.name}</b>
          {place.quote && <q>{place.quote}</q>}
        </p>
      )}
      <CommentForm
        key={place ? `${place.row}/${place.block}/${place.field}/${place.start}` : "whole"}
        keptAs={`${email}/new`}
        label={place ? "Comment on it" : "Comment on the whole email"}
        act="Comment"
        busy={add.isPending}
        fault={add.error?.message}
        focused={place !== undefined}
        onCancel={place && onPlaceLeft}
        onSend={(text, mentions, done) =>
          add.mutate(
            { text, mentions },
            {
              onSuccess: () => {
                done();
                onPlaceLeft();
              },
            },
          )
        }
      />
      {open.map((thread, at) => (
        <Thread key={thread.id} email={email} thread={thread} number={at + 1} chosen={thread.id === chosen} onChoose={onChoose} />
      ))}
      {resolved.length > 0 && (
        <details className={classes.former}>
          <summary>Resolved, {resolved.length}</summary>
          {resolved.map((thread) => (
            <Thread key={thread.id} email={email} thread={thread} chosen={thread.id === chosen} onChoose={onChoose} />
          ))}
        </details>
      )}
    </section>
  );
}

interface ThreadProps {
  email: string;
  thread: CommentThread;
  number?: number;
  chosen: boolean;
  onChoose: (id: string) => void;
}

function Thread({ email, thread, number, chosen, onChoose }: ThreadProps) {
  const [changing, setChanging] = useState<string>();
  const params = (comment: string) => ({ params: { path: { id: email, comment } } });
  const answer = useCommentAct(email, ({ text, mentions }: { text: string; mentions: string[] }) =>
    ask(
      api.POST("/api/emails/{id}/comments", {
        params: { path: { id: email } },
        body: { id: newId(), text, mentions, answers: thread.id, place: null },
      }),
    ),
  );
  const resolve = useCommentAct(email, (resolved: boolean) =>
    ask(api.PUT("/api/emails/{id}/comments/{comment}/resolution", { ...params(thread.id), body: { resolved } })),
  );
  const change = useCommentAct(email, ({ id, text, mentions }: { id: string; text: string; mentions: string[] }) =>
    ask(api.PUT("/api/emails/{id}/comments/{comment}", { ...params(id), body: { text, mentions } })),
  );
  const remove = useCommentAct(email, (id: string) => ask(api.DELETE("/api/emails/{id}/comments/{comment}", params(id))));
  const fault = resolve.error ?? remove.error;
  return (
    <article className={classes.thread} data-chosen={chosen} aria-label={`Comment ${number ?? ""} on ${thread.placeName}`}>
      <button type="button" className={`plain ${classes.place}`} onClick={() => onChoose(thread.id)}>
        {number !== undefined && (
          <span className={classes.number} aria-hidden>
            {number}
          </span>
        )}
        <b>{thread.placeName}</b>
        {thread.gone && <span className="soft">, not there any more</span>}
      </button>
      {thread.quote && (
        <blockquote className={classes.quote}>
          {thread.quote}
          {thread.wordsGone && !thread.gone && <span className="soft"> (these words are gone)</span>}
        </blockquote>
      )}
      {thread.comments.map((comment) => (
        <div key={comment.id} className={classes.comment}>
          <p className={classes.by}>
            <b>{comment.author.name}</b> <span className="soft">{dateAndTimeOf(comment.at)}</span>
            {comment.mayChange && changing !== comment.id && !thread.resolvedAt && (
              <span className={classes.own}>
                <button type="button" className="plain underlined" onClick={() => setChanging(comment.id)}>
                  Change
                </button>
                {thread.comments.length === 1 || comment !== thread.comments[0] ? (
                  <button type="button" className="plain underlined" onClick={() => remove.mutate(comment.id)}>
                    Remove
                  </button>
                ) : null}
              </span>
            )}
          </p>
          {changing === comment.id ? (
            <ChangeForm
              comment={comment}
              busy={change.isPending}
              fault={change.error?.message}
              onSend={(text, mentions) => change.mutate({ id: comment.id, text, mentions }, { onSuccess: () => setChanging(undefined) })}
              onCancel={() => setChanging(undefined)}
            />
          ) : (
            <p className={classes.said}>{comment.text}</p>
          )}
        </div>
      ))}
      {fault && <p role="alert">{fault.message}</p>}
      {thread.resolvedAt ? (
        <p className="soft">
          Resolved by {thread.resolvedBy?.name}, {dateAndTimeOf(thread.resolvedAt)}{" "}
          <button type="button" className="plain underlined" onClick={() => resolve.mutate(false)}>
            Reopen
          </button>
        </p>
      ) : (
        <>
          <CommentForm
            keptAs={`${email}/${thread.id}`}
            label="Answer"
            act="Answer"
            busy={answer.isPending}
            fault={answer.error?.message}
            onSend={(text, mentions, done) => answer.mutate({ text, mentions }, { onSuccess: done })}
          />
          <button type="button" className="plain underlined" onClick={() => resolve.mutate(true)}>
            Resolve
          </button>
        </>
      )}
    </article>
  );
}

interface ChangeProps {
  comment: CommentThread["comments"][number];
  busy: boolean;
  fault?: string;
  onSend: (text: string, mentions: string[]) => void;
  onCancel: () => void;
}

function ChangeForm({ comment, busy, fault, onSend, onCancel }: ChangeProps) {
  const key = `change/${comment.id}`;
  // What was begun to be changed before goes on from there.
  if (localStorage.getItem(`golden-rule-comment-${key}`) === null) {
    localStorage.setItem(`golden-rule-comment-${key}`, comment.text);
  }
  const leave = () => {
    localStorage.removeItem(`golden-rule-comment-${key}`);
    onCancel();
  };
  return (
    <CommentForm
      keptAs={key}
      label="Change your comment"
      act="Keep"
      busy={busy}
      fault={fault}
      focused
      onCancel={leave}
      onSend={(text, mentions, done) => {
        done();
        onSend(text, mentions);
      }}
    />
  );
}
