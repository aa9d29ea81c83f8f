import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import classes from "./Ruler.module.css";

const least = 240;
const most = 1000;

interface Props {
  width: number;
  /** The house style's content width, at which the mark rests. */
  natural: number;
  scale: number;
  margin: number;
  onWidth: (width: number) => void;
}

/** A rule in CSS pixels whose golden mark sets the width of the desktop proof. */
export function Ruler({ width, natural, scale, margin, onWidth }: Props) {
  const line = useRef<HTMLDivElement>(null);
  const clamp = (value: number) => Math.round(Math.max(least, Math.min(most, value)));

  const drag = (event: PointerEvent<HTMLElement>) => {
    if (event.buttons === 1 && line.current) {
      onWidth(clamp((event.clientX - line.current.getBoundingClientRect().left - margin) / scale));
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.shiftKey ? 50 : 5;
    const next = { ArrowLeft: width - by, ArrowRight: width + by, Home: 320, End: natural }[event.key];
    if (next !== undefined) {
      event.preventDefault();
      onWidth(clamp(next));
    }
  };

  return (
    <div className={classes.ruler} ref={line}>
      <svg className={classes.scale} aria-hidden="true" height="34" width="100%">
        {Array.from({ length: most / 20 + 1 }, (_, i) => i * 20).map((x) => (
          <line key={x} x1={margin + x * scale} x2={margin + x * scale} y1={x % 100 === 0 ? 22 : 28} y2={34} className={classes.tick} />
        ))}
        {[0, 200, 400, 600, 800, 1000].map((x) => (
          <text key={x} x={margin + x * scale + 4} y={24} className={classes.figure}>
            {x}
          </text>
        ))}
      </svg>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Width of the desktop proof, pixels"
        aria-valuemin={least}
        aria-valuemax={most}
        aria-valuenow={width}
        className={classes.mark}
        style={{ left: margin + width * scale }}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={drag}
        onDoubleClick={() => onWidth(natural)}
        onKeyDown={onKeyDown}
      >
        <span>{width}</span>
      </div>
    </div>
  );
}
