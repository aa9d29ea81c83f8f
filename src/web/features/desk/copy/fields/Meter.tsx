import type { Measurement } from "../../../../api/types";
import classes from "./fields.module.css";

const counted = (m: Measurement) => ["characters", "words", "lines", "items"].includes(m.of);

/** "38 of 60", as the server measured it. */
export function meterNote(measured: Measurement[]): string {
  return measured
    .filter((m) => m.of !== "host")
    .map((m) => {
      switch (m.of) {
        case "characters":
          return `${m.value} of ${m.bound}`;
        case "ratio":
          return `shape ${m.value / 100} to 1, wanted ${m.bound / 100}`;
        case "kilobytes":
          return `${m.value} of ${m.bound} KB`;
        case "items-least":
          return `least ${m.bound}`;
        case "width":
        case "height":
          return `${m.of} ${m.value} px, least ${m.bound}`;
        default:
          return `${m.value} of ${m.bound} ${m.of}`;
      }
    })
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
