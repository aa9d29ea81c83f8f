// 500 moments in time zones as Intl (ICU and the IANA Time Zone Database) has them, half of them near a change of clocks, for the core's
// tests: node zone-moments.mjs > ../GoldenRule.Core.Tests/zone-moments.json
import { seeded } from "./seeded.mjs";

const random = seeded(20261130);
const zones = [
  "Europe/London",
  "Europe/Berlin",
  "America/New_York",
  "America/St_Johns",
  "Australia/Lord_Howe",
  "Pacific/Chatham",
  "Asia/Kolkata",
  "Africa/Cairo",
  "America/Santiago",
  "Asia/Tokyo",
];
const [minute, hour, day] = [60_000, 3_600_000, 86_400_000];
const formats = new Map();
function localOf(zone, at) {
  if (!formats.has(zone)) {
    formats.set(
      zone,
      new Intl.DateTimeFormat("en-GB", {
        timeZone: zone,
        hourCycle: "h23",
        year: "numeric",
        month: "2-digit",
        day: "2-digit",
        hour: "2-digit",
        minute: "2-digit",
      }),
    );
  }
  const part = Object.fromEntries(
    formats
      .get(zone)
      .formatToParts(at)
      .map((p) => [p.type, p.value]),
  );
  return `${part.year}-${part.month}-${part.day}T${part.hour}:${part.minute}`;
}
const offset = (zone, at) => Date.parse(`${localOf(zone, at)}Z`) - at;
const begin = Date.UTC(2026, 0, 1);

function nearChange(zone) {
  const from = begin + Math.floor(random() * 300) * day;
  for (let at = from; at < from + 400 * day; at += day) {
    if (offset(zone, at) !== offset(zone, at + day)) {
      let [before, after] = [at, at + day];
      while (after - before > minute) {
        const middle = before + Math.floor((after - before) / 2 / minute) * minute;
        [before, after] = offset(zone, middle) === offset(zone, at) ? [middle, after] : [before, middle];
      }
      return after + Math.floor((random() - 0.5) * 180) * minute;
    }
  }
  return from;
}

const moments = Array.from({ length: 500 }, (_, i) => {
  const zone = zones[i % zones.length];
  const near = i % 2 === 0 ? nearChange(zone) : begin + Math.floor(random() * 700 * 24 * 60) * minute;
  // What a clock on the wall says, or would say if it went on: some of these come twice, some do not come.
  const local = new Date(near + offset(zone, near - 3 * hour)).toISOString().slice(0, 16);
  const wall = Date.parse(`${local}Z`);
  const offsets = [
    ...new Set([offset(zone, wall - day), offset(zone, wall + day), offset(zone, wall - 12 * hour), offset(zone, wall + 12 * hour)]),
  ];
  const at = offsets
    .map((o) => wall - o)
    .filter((t) => localOf(zone, t) === local)
    .sort((a, b) => a - b);
  return { zone, local, at: at.map((t) => new Date(t).toISOString()) };
});
console.log(JSON.stringify(moments, null, 1));
