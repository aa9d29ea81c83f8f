import type { Measurement } from "../../../api/types";
import classes from "./fields.module.css";

const counted = (m: Measurement) => m.of === "characters" || m.of === "words";

/** "38 of 60", as the server measured it. */
export function meterNote(measured: Measurement[]): string {
  return measured
    .filter((m) => m.of !== "host")
    .map((m) => (counted(m) ? `${m.value} of ${m.bound}${m.of === "words" ? " words" : ""}` : `${m.of} ${m.value}, least ${m.bound}`))
    .join(" · ");
}

/** "up to 60", for a field in which nothing stands yet. */
export function roomNote(measured: Measurement[]): string {
  return measured
    .filter(counted)
    .map((m) => `up to ${m.bound} ${m.of}`)
    .join(" · ");
}

/** How full a field is: gold up to the limit, vermilion beyond it. */
export function Meter({ measured }: { measured: Measurement[] }) {
  return measured.filter(counted).map((m) => (
    <div key={m.of} className={classes.meter} data-broken={m.broken} aria-hidden="true">
      <div style={{ width: `${Math.min(100, (100 * m.value) / m.bound)}%` }} />
    </div>
  ));
}
