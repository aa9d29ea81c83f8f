const clock = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", second: "2-digit" });
const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });

export const clockTime = (at: string) => clock.format(new Date(at));
export const dayOf = (at: string) => day.format(new Date(at));
