import type { Send } from "../../api/types";
import { countOf, numberOf } from "../../shared/format";
import classes from "./Sending.module.css";
import { lastAt, timeIn } from "./times";

const [width, height, axis] = [600, 210, 24];
const mostBars = 48;
const fewest = 10;

/** How many have it after each batch: what was sent, what is being sent, and what is planned. */
export function BatchChart({ send, now }: { send: Send; now: string }) {
  const total = send.batches.reduce((sum, b) => sum + b.size, 0);
  const each = Math.ceil(send.batches.length / mostBars);
  const bars: { from: string; after: number; state: "sent" | "now" | "planned" }[] = [];
  let after = 0;
  for (let i = 0; i < send.batches.length; i += each) {
    const part = send.batches.slice(i, i + each);
    after += part.reduce((sum, b) => sum + b.size, 0);
    const state = part.every((b) => b.endedAt) ? "sent" : part.some((b) => b.begunAt) ? "now" : "planned";
    bars.push({ from: part[0]?.begunAt ?? part[0]?.at ?? "", after, state });
  }
  // A few batches stand as far apart as many would.
  const step = width / Math.max(bars.length, fewest);
  const sent = send.batches.reduce((sum, b) => sum + b.sent, 0);
  const tick = Math.max(1, Math.ceil(bars.length / 6));
  const current = bars.findIndex((b) => b.state !== "sent");
  const end = lastAt(send);
  return (
    <figure className={classes.chart}>
      <svg
        viewBox={`0 0 ${width} ${height + axis}`}
        role="img"
        aria-label={`${countOf(sent, "reader has", "readers have")} it of ${numberOf(total)}, in ${countOf(send.batches.length, "batch", "batches")} until ${timeIn(send.zone, end)}`}
      >
        {bars.map((bar, i) => {
          const tall = Math.max(3, (bar.after / Math.max(total, 1)) * (height - 20));
          return (
            <g key={`${bar.from}/${bar.after}`}>
              <rect
                className={classes[bar.state]}
                x={i * step + step * 0.15}
                y={height - tall}
                width={Math.max(2, step * 0.7)}
                height={tall}
              />
              {i % tick === 0 && (
                <text x={i * step} y={height + 16} className={classes.tick}>
                  {timeIn(send.zone, bar.from, true)}
                </text>
              )}
            </g>
          );
        })}
        {send.state === "running" && current > 0 && (
          <line className={classes.nowLine} x1={current * step} x2={current * step} y1={0} y2={height} />
        )}
        <line className={classes.base} x1={0} x2={width} y1={height + 0.5} y2={height + 0.5} />
      </svg>
      {send.state === "running" && (
        <figcaption>
          now {timeIn(send.zone, now, true)} · {numberOf(sent)} sent, the last begins {timeIn(send.zone, end)}
        </figcaption>
      )}
    </figure>
  );
}
