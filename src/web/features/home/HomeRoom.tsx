import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Wait } from "../../api/types";
import { countOf, dateAndTimeOf, dayAndMonth, dayOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import { Pending } from "../../shared/Pending";
import { Thumbnail } from "../../shared/Thumbnail";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { FirstSteps } from "../session/FirstSteps";
import { useIsEverywhere } from "../session/useSession";
import { Calendar } from "./Calendar";
import { Health } from "./Health";
import classes from "./HomeRoom.module.css";
import { acts } from "./waits";

const UpdatesDialog = lazily(() => import("../emails/UpdatesDialog"));

/** What waits for whoever is signed in, each with the one act that answers it; what they asked of others; what goes out when. */
export default function HomeRoom() {
  const home = useQuery(queries.home);
  const leads = useIsEverywhere("lead");
  const [updating, setUpdating] = useState(false);
  const updates = home.data?.waits.filter((w) => w.kind === "take-update").length ?? 0;
  return (
    <div className={classes.room}>
      <title>Home · Golden Rule</title>
      <div className={classes.mine}>
        <header>
          <h1>
            {new Intl.DateTimeFormat(undefined, { weekday: "long" }).format(new Date())} {dayAndMonth()}
          </h1>
          {home.data && (
            <p className="soft">
              {home.data.waits.length === 0
                ? "Nothing waits for you."
                : `${countOf(home.data.waits.length, "thing waits", "things wait")} for you.`}
            </p>
          )}
        </header>
        <Pending query={home} what="What waits for you" />
        {home.data && home.data.waits.length > 0 && (
          <ul className={classes.waits} aria-label="What waits for you">
            {home.data.waits.map((wait) => (
              <WaitItem key={wait.key} wait={wait} />
            ))}
          </ul>
        )}
        {updates > 1 && (
          <p>
            <button type="button" className="plain underlined" onClick={() => setUpdating(true)}>
              Take the updates of {updates} emails together
            </button>
          </p>
        )}
        {home.data && home.data.asked.length > 0 && <Asked asked={home.data.asked} />}
        <div className={classes.steps}>
          <FirstSteps />
        </div>
        {leads && <Health />}
      </div>
      <Calendar />
      {updating && <UpdatesDialog onClose={() => setUpdating(false)} />}
    </div>
  );
}

function WaitItem({ wait }: { wait: Wait }) {
  const types = useCampaignTypes();
  const act = acts[wait.kind];
  const cache = useQueryClient();
  const note = useMutation({
    mutationFn: () => ask(api.POST("/api/home/noted", { body: { key: wait.key } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["home"] }),
  });
  return (
    <li className={classes.wait}>
      {wait.document === "snippet" ? (
        <span className={classes.none} aria-hidden>
          {"{ }"}
        </span>
      ) : (
        <Thumbnail
          subject={{ kind: wait.document === "row" || wait.document === "template" ? wait.document : "email", id: wait.id, draft: false }}
          version={`${wait.revision}`}
          width={62}
          height={44}
          label=""
        />
      )}
      <div className={classes.what}>
        <b>{wait.name}</b>
        <span>{wait.text}</span>
      </div>
      <div className={`soft ${classes.when}`}>
        <span>{types.nameOf(wait.campaignType)}</span>
        <span>
          {wait.kind === "release-not-made" ? "planned for " : ""}
          {wait.day ? `goes out ${dayOf(wait.day)}` : dateAndTimeOf(wait.at)}
        </span>
      </div>
      <span className={classes.acts}>
        <Link to={act.to(wait)} className="underlined">
          {act.name}
          <span className="only-heard"> {wait.name}</span>
        </Link>
        {wait.notable && (
          <button type="button" className="plain underlined" disabled={note.isPending} onClick={() => note.mutate()}>
            Noted<span className="only-heard">: {wait.name}</span>
          </button>
        )}
        {note.error && <span role="alert">{note.error.message}</span>}
      </span>
    </li>
  );
}

function Asked({ asked }: { asked: { id: string; name: string; with: string; approved: string; since: string }[] }) {
  return (
    <section aria-label="Asked of others" className={classes.waiting}>
      <h2>Asked of others</h2>
      <ul className={classes.asked}>
        {asked.map((one) => (
          <li key={one.id}>
            <span>
              <b>{one.name}</b> with {one.with || "nobody any more"} for approval{one.approved && `; ${one.approved} approved`}
            </span>
            <span className="soft">since {dateAndTimeOf(one.since)}</span>
            <Link to={`/emails/${one.id}/review`} className="underlined">
              Open<span className="only-heard"> the review of {one.name}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
