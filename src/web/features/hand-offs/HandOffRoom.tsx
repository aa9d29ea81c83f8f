import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useParams } from "react-router";
import { watchDocument, watchReviews } from "../../api/live";
import { queries } from "../../api/queries";
import type { HandOff } from "../../api/types";
import { EmailLine } from "../../shared/EmailLine";
import { dateAndTimeOf } from "../../shared/format";
import { Mark } from "../../shared/Mark";
import { Pending } from "../../shared/Pending";
import { ClickHeat } from "../sending/ClickHeat";
import { SendingColumn } from "../sending/SendingColumn";
import { BrowserPage } from "./BrowserPage";
import { Frozen } from "./Frozen";
import { FrozenProofs } from "./FrozenProofs";
import { CorrectButton, HandOffActs } from "./HandOffActs";
import classes from "./HandOffRoom.module.css";
import { HandOffs } from "./HandOffs";
import { Verification } from "./Verification";

/** What was handed off of an email, byte for byte: looked at, verified, exported, withdrawn. */
export default function HandOffRoom() {
  const { id = "", number } = useParams();
  const cache = useQueryClient();
  useEffect(() => {
    const again = () => {
      void cache.invalidateQueries({ queryKey: ["hand-offs", id] });
      void cache.invalidateQueries({ queryKey: ["hand-off"] });
    };
    // News of an email reach whoever watches it.
    const stops = [watchDocument(id, again), watchReviews(id, again)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [cache, id]);
  const list = useQuery(queries.handOffs(id));
  const mark = number ? list.data?.all.find((h) => `${h.number}` === number) : list.data?.all[0];
  const handOff = useQuery({ ...queries.handOff(mark?.id ?? ""), enabled: mark !== undefined });
  return (
    <div className={`${classes.room} ${handOff.data?.record.to ? classes.toOne : ""}`}>
      {handOff.data ? (
        <Opened key={handOff.data.record.id} handOff={handOff.data} />
      ) : (
        <main className={classes.pending}>
          <title>Hand-off · Golden Rule</title>
          {(mark || !list.data) && <Pending query={mark ? handOff : list} what="The hand-off" />}
          {list.data && !mark && (
            <>
              <Link to="/emails" aria-label="Golden Rule, to the emails" className={classes.mark}>
                <Mark />
              </Link>
              <h1>{number ? `There is no hand-off ${number} of this email` : "It was not handed off yet"}</h1>
              <p>
                {list.data.state === "handed-off"
                  ? "It was handed off before hand-offs were recorded. Correct it and hand it off again to have a record."
                  : "Once it is approved it is handed off from its review."}
              </p>
              <p className={classes.ways}>
                <Link to={`/emails/${id}`} className="underlined">
                  Open on the desk
                </Link>
                <Link to={`/emails/${id}/review`} className="underlined">
                  To the review
                </Link>
              </p>
              {list.data.correct.allowed && !number && <CorrectButton email={id} />}
            </>
          )}
        </main>
      )}
    </div>
  );
}

function Opened({ handOff }: { handOff: HandOff }) {
  const { record, withdrawal } = handOff;
  return (
    <>
      <EmailLine
        email={record}
        title={`Hand-off ${record.number} of ${record.name}`}
        state={
          withdrawal
            ? `hand-off ${record.number}, withdrawn ${dateAndTimeOf(withdrawal.at)}`
            : `handed off ${record.number}, ${dateAndTimeOf(record.at)}`
        }
      >
        <HandOffActs handOff={handOff} />
      </EmailLine>
      <aside className={classes.frozenColumn} aria-label="What was handed off">
        {withdrawal && (
          <p role="alert" className={classes.withdrawn}>
            ■ Withdrawn by {withdrawal.by.name}: “{withdrawal.reason}”
          </p>
        )}
        <Frozen record={record} />
        <Verification handOff={handOff} />
        <BrowserPage handOff={handOff} />
        <HandOffs handOff={handOff} />
      </aside>
      {record.to ? (
        <main className={classes.proofsColumn} aria-label="As it was frozen">
          <FrozenProofs handOff={handOff} />
        </main>
      ) : (
        <>
          <main className={classes.sendingColumn} aria-label="Sending">
            <SendingColumn handOff={handOff} />
          </main>
          <aside className={classes.heatColumn} aria-label="What came back">
            <ClickHeat handOff={handOff} />
          </aside>
        </>
      )}
    </>
  );
}
