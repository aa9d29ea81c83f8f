/** Numbers, sizes, counts, days and times as the interface writes them: here and nowhere else. */

const locale = "en-GB";
const clock = new Intl.DateTimeFormat(locale, { hour: "2-digit", minute: "2-digit", second: "2-digit" });
const day = new Intl.DateTimeFormat(locale, { day: "numeric", month: "short", year: "numeric" });
const dayAndTime = new Intl.DateTimeFormat(locale, { day: "numeric", month: "short", year: "numeric", hour: "2-digit", minute: "2-digit" });
const dayMonth = new Intl.DateTimeFormat(locale, { day: "numeric", month: "long" });
const number = new Intl.NumberFormat(locale);
const tenths = new Intl.NumberFormat(locale, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const plurals = new Intl.PluralRules(locale);

/** The time of day, or the day where it was not today. */
export const clockTime = (at: string) =>
  new Date(at).toDateString() === new Date().toDateString() ? clock.format(new Date(at)) : dayOf(at);
/** The day and the time of a moment. */
export const dateAndTimeOf = (at: string) => dayAndTime.format(new Date(at));
export const dayOf = (at: string) => day.format(new Date(at));

const dayMonthBrief = new Intl.DateTimeFormat(locale, { day: "numeric", month: "short", timeZone: "UTC" });
const localMoment = new Intl.DateTimeFormat(locale, {
  weekday: "short",
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
  timeZone: "UTC",
});
const localDay = new Intl.DateTimeFormat(locale, { weekday: "short", day: "numeric", month: "short", timeZone: "UTC" });

/** A local moment, "2026-11-30T09:00", as words; midnight is only its day. */
export const momentOf = (local: string) => {
  const at = new Date(`${local}:00Z`);
  return Number.isNaN(at.getTime()) ? local : (local.endsWith("T00:00") ? localDay : localMoment).format(at);
};

/** What a date says, "2027-04-14T11:00" or only its day, as words with the year. */
export const writtenMoment = (local: string) => {
  const [date = "", hour] = local.split("T");
  const at = new Date(`${date}T00:00`);
  return Number.isNaN(at.getTime()) ? local : [day.format(at), hour].filter(Boolean).join(", ");
};

/** "28 Nov", of a moment in milliseconds. */
export const dayMonthShort = (at: number) => dayMonthBrief.format(at);

/** A day of this year as a name holds it: "28 November". */
export const dayAndMonth = (at = new Date()) => dayMonth.format(at);

export const numberOf = (value: number) => number.format(value);

/** A number with what it counts: "1 row", "1,204 rows". */
export const countOf = (count: number, one: string, many = `${one}s`) => `${numberOf(count)} ${pluralOf(count, one, many)}`;

/** A choice by its technical name as words: "phone-only" is "Phone only". */
export const choiceOf = (name: string) => name.charAt(0).toUpperCase() + name.slice(1).replaceAll("-", " ");

/** The word alone, for one or for many. */
export const pluralOf = (count: number, one: string, many: string) => (plurals.select(count) === "one" ? one : many);

/** A size in KB of 1,024 bytes, a part of one counted as a whole, as limits are. */
export const kilobytesOf = (bytes: number) => `${numberOf(Math.ceil(bytes / 1024))} KB`;

/** A size in KB, and from 1,000 KB in MB. */
export const sizeOf = (bytes: number) => (bytes <= 1000 * 1024 ? kilobytesOf(bytes) : `${tenths.format(bytes / 1024 / 1024)} MB`);
