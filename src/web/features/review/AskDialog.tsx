import { Button, Checkbox, Modal, Textarea } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Review } from "../../api/types";
import { countOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { toggled } from "../../shared/useLiveField";
import classes from "./ReviewRoom.module.css";
import { useKeptText } from "./useKeptText";
import { useReviewAct } from "./useReview";

/** Asks those who approve: says who they are and what still stops it. */
export default function AskDialog({ email, onClose }: { email: string; onClose: () => void }) {
  const review = useQuery(queries.review(email));
  return (
    <Modal opened onClose={onClose} title="Ask for approval" size={560} closeButtonProps={{ "aria-label": "Close" }}>
      {review.data ? <AskForm review={review.data} onClose={onClose} /> : <Pending query={review} what="Who approves" />}
    </Modal>
  );
}

function AskForm({ review, onClose }: { review: Review; onClose: () => void }) {
  const [note, setNote] = useKeptText(`${review.id}/ask`);
  const [people, setPeople] = useState<string[]>([]);
  const [answers, setAnswers] = useState(Object.fromEntries(review.warnings.map((w) => [w.key, w.answer])));
  const id = useRef(newId());
  const send = useReviewAct(review.id, () =>
    ask(
      api.POST("/api/emails/{id}/review/rounds", {
        params: { path: { id: review.id } },
        body: { id: id.current, note, people, answers: review.answerWarnings ? answers : null },
      }),
    ),
  );
  const unanswered = review.answerWarnings ? review.warnings.filter((w) => !answers[w.key]?.trim()).length : 0;
  const stopped = !review.ask.allowed;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate(undefined, {
      onSuccess: () => {
        setNote("");
        onClose();
      },
    });
  };
  return (
    <form onSubmit={submit} className={classes.askForm}>
      {stopped && (
        <p role="alert">
          ■ {review.ask.reason}{" "}
          {(review.obstacles.blockers > 0 || review.obstacles.toFill > 0) && "The findings on the desk lead to each of them."}
        </p>
      )}
      {review.needs.length === 0 ? (
        <p>Nobody has to approve a {review.campaignTypeName}: it counts as approved once you say that it is done.</p>
      ) : (
        review.needs.map((need) => (
          <fieldset key={need.name} className={classes.need}>
            <legend>{need.name}</legend>
            {need.may.length === 0 && <p role="alert">■ Nobody is left who may: all wrote in it, or are not here any more.</p>}
            {need.may.length === 1 && <p>{need.may[0]?.name}</p>}
            {need.may.length > 1 && (
              <>
                <p className="soft">One of them. Tick whom you ask first; whoever is quickest may decide.</p>
                {need.may.map((person) => (
                  <Checkbox
                    key={person.id}
                    label={person.name}
                    checked={people.includes(person.id)}
                    onChange={() => setPeople((now) => toggled(now, person.id))}
                  />
                ))}
              </>
            )}
          </fieldset>
        ))
      )}
      {review.warnings.length > 0 && !review.answerWarnings && (
        <p className="soft">▲ {countOf(review.warnings.length, "warning")} will be seen with it.</p>
      )}
      {review.answerWarnings &&
        review.warnings.map((warning) => (
          <Textarea
            key={warning.key}
            label={`▲ ${warning.message} Why does it stay?`}
            autosize
            minRows={1}
            maxLength={2000}
            value={answers[warning.key] ?? ""}
            onChange={(e) => {
              const said = e.currentTarget.value;
              setAnswers((now) => ({ ...now, [warning.key]: said }));
            }}
          />
        ))}
      <Textarea
        label="A word with it, if you like"
        autosize
        minRows={2}
        maxLength={2000}
        value={note}
        onChange={(e) => setNote(e.currentTarget.value)}
      />
      {send.error && <p role="alert">■ {send.error.message}</p>}
      <p className={classes.formActs}>
        <Button type="submit" loading={send.isPending} disabled={stopped || unanswered > 0}>
          {review.needs.length === 0 ? "It is done" : "Ask for approval"}
        </Button>
        {unanswered > 0 && <span className="soft">{countOf(unanswered, "warning")} to answer</span>}
      </p>
    </form>
  );
}
