import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { HandOff, Push, Sending } from "../../api/types";
import { dateAndTimeOf } from "../../shared/format";
import classes from "./Sending.module.css";

/** Each destination that takes hand-offs: whether it has this one, and what it calls it. */
export function WhereItWent({ handOff, sending }: { handOff: HandOff; sending: Sending }) {
  const { id } = handOff.record;
  const cache = useQueryClient();
  const onSuccess = (answer: Sending) => cache.setQueryData(queries.sending(id).queryKey, answer);
  const push = useMutation({
    mutationFn: (destination: string) => ask(api.POST("/api/hand-offs/{id}/pushes", { params: { path: { id } }, body: { destination } })),
    onSuccess,
  });
  const stop = useMutation({
    mutationFn: (destination: string) =>
      ask(api.DELETE("/api/hand-offs/{id}/pushes/{destination}", { params: { path: { id, destination } } })),
    onSuccess,
  });
  const offered = sending.destinations.filter((d) => d.takesPushes && !sending.pushes.some((p) => p.destination === d.id));
  const still = new Set(sending.destinations.map((d) => d.id));
  const fault = push.error ?? stop.error;
  return (
    <section aria-label="Where it went">
      <h2>Where it went</h2>
      {sending.destinations.length === 0 && sending.pushes.length === 0 && (
        <p className="soft">
          There are no destinations yet. <Link to="/sending/destinations">Leads add them under Sending.</Link>
        </p>
      )}
      <ul className={classes.went}>
        {sending.pushes.map((one) => (
          <li key={one.destination}>
            <span>
              <Whereto of={one} profiles={handOff.record.profiles} />
            </span>
            <span role="status" className={one.state === "given-up" || (one.state === "waiting" && one.answer) ? classes.fault : undefined}>
              {stateOf(one)}
            </span>
            <span className={classes.acts}>
              {one.kind === "download" && one.state === "taken" && (
                <a className="underlined" href={`/api/hand-offs/${id}/bundle?profile=${encodeURIComponent(one.profile)}`}>
                  Download <span className="only-heard">from {one.name}</span>
                </a>
              )}
              {sending.push.allowed && still.has(one.destination) && one.kind !== "download" && (
                <button type="button" className="plain underlined" disabled={push.isPending} onClick={() => push.mutate(one.destination)}>
                  {one.state === "taken" ? "Refresh" : "Try now"} <span className="only-heard">{one.name}</span>
                </button>
              )}
              {sending.push.allowed && one.nextTry && (
                <button type="button" className="plain underlined" onClick={() => stop.mutate(one.destination)}>
                  Stop <span className="only-heard">{one.name}</span>
                </button>
              )}
            </span>
          </li>
        ))}
        {offered.map((one) => (
          <li key={one.id}>
            <span>
              <Whereto of={one} profiles={handOff.record.profiles} />
            </span>
            <span className="soft">not there</span>
            <span>
              {sending.push.allowed && (
                <button type="button" className="plain underlined" disabled={push.isPending} onClick={() => push.mutate(one.id)}>
                  {one.kind === "download" ? "Prepare" : "Push"} <span className="only-heard">to {one.name}</span>
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {fault && <p role="alert">■ {fault.message}</p>}
    </section>
  );
}

interface WheretoProps {
  of: { name: string; kind: string; kindTitle: string; profile: string };
  profiles: HandOff["record"]["profiles"];
}

/** Its name, and how emails are written for it. */
const Whereto = ({ of, profiles }: WheretoProps) => (
  <>
    <b>{of.name}</b>{" "}
    <span className="soft">
      {of.kind === "download"
        ? "ZIP with pictures"
        : `${of.name === of.kindTitle ? "" : `${of.kindTitle.toLowerCase()}, `}as ${profiles.find((p) => p.key === of.profile)?.name ?? of.profile}`}
    </span>
  </>
);

function stateOf(push: Push) {
  switch (push.state) {
    case "taken":
      return `taken ${dateAndTimeOf(push.takenAt ?? push.askedAt)}${push.otherId ? `, id ${push.otherId}` : ""}`;
    case "given-up":
      return `▲ ${push.answer} Given up.`;
    case "stopped":
      return push.answer || "stopped";
    default:
      return push.answer ? `▲ ${push.answer} Again ${push.nextTry ? dateAndTimeOf(push.nextTry) : "soon"}.` : "on its way…";
  }
}
