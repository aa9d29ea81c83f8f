import type { Send } from "../../api/types";

/** A moment as clocks in a time zone say it. */
export const timeIn = (zone: string, at: string, brief = false) =>
  new Intl.DateTimeFormat(undefined, {
    timeZone: zone,
    hour: "2-digit",
    minute: "2-digit",
    ...(brief ? {} : { weekday: "long", day: "numeric", month: "long" }),
  }).format(new Date(at));

/** When the last batch begins, or ended. */
export const lastAt = (send: Send) => {
  const last = send.batches.at(-1);
  return last?.endedAt ?? last?.at ?? send.askedAt;
};

export const ownZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone;
