import { Button, NativeSelect, SegmentedControl } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { CommentPlace, ReviewComparison, SeenChange } from "../../api/types";
import { MarkedText } from "./MarkedText";
import { type Pin, ReviewFrame } from "./ReviewFrame";
import classes from "./ReviewRoom.module.css";

interface Props {
  email: string;
  comparison: ReviewComparison;
  chosen?: SeenChange;
  pins: Pin[];
  pin?: string;
  onPin: (id: string) => void;
  onPlace: (place: CommentPlace | undefined) => void;
}

const widths = { desktop: 640, phone: 375 };
const gap = 14;

/** Both states, side by side or laid over one another, as screens and readers see them. */
export function ReviewProofs({ email, comparison, chosen, pins, pin, onPin, onPlace }: Props) {
  const [view, setView] = useState<"desktop" | "phone" | "text">("desktop");
  const [dark, setDark] = useState(false);
  const [over, setOver] = useState(false);
  const [shown, setShown] = useState<"before" | "now">("now");
  const [reader, setReader] = useState("");
  const readers = useQuery(queries.sampleReaders);
  const asReader = useQuery({ ...queries.seenBy(email, reader, comparison.after.html), enabled: reader !== "" });
  const seen = reader ? asReader.data : undefined;
  const { ref, width: room } = useElementSize();
  // On a phone there is room for one: the one that is asked for.
  const single = over || room < 560;
  const width = view === "phone" ? widths.phone : widths.desktop;
  const scale = Math.min(1, Math.max(0.2, (single ? room : (room - gap) / 2) / width));
  const place = (row: string, block: string) => onPlace({ row, block, field: "", start: 0, length: 0 });
  const frame = { width, scale, dark, comparison, chosen };
  const now = (
    <ReviewFrame
      {...frame}
      html={seen ? [seen.opening, ...seen.rows.map((r) => r.html)].join("") : comparison.after.html}
      side="now"
      label={seen ? `${comparison.after.label}, as ${readers.data?.find((r) => r.id === reader)?.name}` : comparison.after.label}
      pins={pins}
      pin={pin}
      onPin={onPin}
      onBlock={place}
      onWords={(words) => words && onPlace(words)}
    />
  );
  const before = <ReviewFrame {...frame} html={comparison.before.html} side="before" label={comparison.before.label} pins={[]} />;
  return (
    <div className={classes.proofs}>
      <div className={classes.views}>
        <SegmentedControl
          size="xs"
          aria-label="As it is seen"
          data={[
            { value: "desktop", label: "Desktop" },
            { value: "phone", label: "Phone" },
            { value: "text", label: "Plain text" },
          ]}
          value={view}
          onChange={(v) => setView(v as typeof view)}
        />
        {view !== "text" && (
          <Button size="compact-sm" variant="subtle" aria-pressed={dark} onClick={() => setDark(!dark)}>
            Dark
          </Button>
        )}
        {(readers.data?.length ?? 0) > 0 && (
          <NativeSelect
            size="xs"
            aria-label="Which reader sees what there is now"
            value={reader}
            onChange={(e) => setReader(e.currentTarget.value)}
            data={[{ value: "", label: "All readers" }, ...(readers.data ?? []).map((r) => ({ value: r.id, label: r.name }))]}
          />
        )}
        {view !== "text" && (
          <span className={classes.laid}>
            {single && (
              <Button size="compact-sm" variant="subtle" onClick={() => setShown(shown === "now" ? "before" : "now")}>
                {shown === "now" ? "Show before" : "Show now"}
              </Button>
            )}
            {room >= 560 && (
              <Button size="compact-sm" variant="subtle" aria-pressed={over} onClick={() => setOver(!over)}>
                Overlay
              </Button>
            )}
          </span>
        )}
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1). */}
      <div className={classes.scroll} role="group" aria-label="Before and now, scrolling" tabIndex={0}>
        <div ref={ref} className={classes.sides} style={{ gap }}>
          {view === "text" ? (
            <pre className={classes.text}>{seen ? seen.text : <MarkedText marks={comparison.text} whole />}</pre>
          ) : (
            room > 0 && (
              <>
                {(!single || shown === "before") && before}
                {(!single || shown === "now") && now}
              </>
            )
          )}
        </div>
      </div>
    </div>
  );
}
