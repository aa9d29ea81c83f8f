const clock = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", second: "2-digit" });
const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });

/** The time of day, or the day where it was not today. */
export const clockTime = (at: string) =>
  new Date(at).toDateString() === new Date().toDateString() ? clock.format(new Date(at)) : dayOf(at);
export const dayOf = (at: string) => day.format(new Date(at));
