import { Link } from "react-router";
import type { FieldValue, Snippet } from "../../api/types";
import { dayMonthShort, momentOf } from "../../shared/format";
import { wordsOf } from "../desk/wordsOf";
import classes from "./ScheduleRuler.module.css";

const aDay = 86_400_000;
const time = (local: string) => Date.parse(`${local}:00Z`);

/** A snippet's life on a ruler: what it says when, where today is, and when the emails go out that it stands in. */
export function ScheduleRuler({ data }: { data: Snippet }) {
  const { values = [], expires } = data.snippet;
  const now = time(data.now);
  const going = data.goingOut.slice(0, 3).map((out) => ({ ...out, at: time(`${out.day}T12:00`) }));
  const moments = [
    now,
    ...values.flatMap((v) => (v.from ? [time(v.from)] : [])),
    ...(expires ? [time(expires)] : []),
    ...going.map((g) => g.at),
  ];
  const from = startOfDay(Math.min(...moments) - 3 * aDay);
  const to = startOfDay(Math.max(...moments, now + 10 * aDay) + 4 * aDay);
  const at = (moment: number) => `${(100 * (Math.min(to, Math.max(from, moment)) - from)) / (to - from)}%`;
  const spans = values.map((value, i) => {
    const begins = value.from ? time(value.from) : from;
    const next = values[i + 1]?.from ?? expires ?? "";
    return { value, begins, ends: next ? time(next) : to, until: next };
  });
  const days = Math.round((to - from) / aDay);
  // Each seventh day has its name, where there is room for it.
  const named = days > 120 ? 28 : days > 50 ? 14 : 7;
  return (
    <figure className={classes.ruler} aria-label="What it says when">
      <div className={classes.marks} style={{ height: 18 * (going.length + 1) + 4 }}>
        <span className={classes.mark} data-today style={{ left: at(now) }}>
          today
        </span>
        {going.map((out, i) => (
          <Link
            key={out.id}
            to={`/emails/${out.id}`}
            className={classes.mark}
            data-late={out.afterExpiry}
            style={{ left: at(out.at), top: 18 * (i + 1) }}
            title={`${out.name} goes out on ${out.day}`}
          >
            {out.name}, {dayMonthShort(out.at)}
          </Link>
        ))}
      </div>
      <div className={classes.band}>
        {spans.map(({ value, begins, ends, until }, i) => (
          <div
            key={value.id}
            className={classes.span}
            data-now={i === data.holds && !data.expired}
            style={{ left: at(begins), width: `calc(${at(ends)} - ${at(begins)})` }}
          >
            <b>{inOneLine(value.value)}</b>
            <span>{until ? `till ${momentOf(until)}` : value.from ? `from ${momentOf(value.from)}` : "from the beginning"}</span>
          </div>
        ))}
        {expires && (
          <div className={classes.span} data-expired style={{ left: at(time(expires)), width: `calc(100% - ${at(time(expires))})` }}>
            <b>nothing</b>
            <span>expired</span>
          </div>
        )}
        <i className={classes.line} data-today style={{ left: at(now) }} />
        {going.map((out) => (
          <i key={out.id} className={classes.line} style={{ left: at(out.at) }} />
        ))}
      </div>
      <div className={classes.days} aria-hidden="true">
        {Array.from({ length: days + 1 }, (_, i) => from + i * aDay).map((day, i) => (
          <span key={day} className={classes.tick} data-named={i % named === 0} style={{ left: at(day) }}>
            {i % named === 0 && i < days - named / 3 ? dayMonthShort(day) : ""}
          </span>
        ))}
      </div>
    </figure>
  );
}

const startOfDay = (moment: number) => Math.floor(moment / aDay) * aDay;

const inOneLine = (value: FieldValue) => wordsOf(value) || "nothing yet";
