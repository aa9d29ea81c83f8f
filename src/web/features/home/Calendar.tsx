import { DndContext, type DragEndEvent, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import { Popover } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import dayjs from "dayjs";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { CalendarEntry } from "../../api/types";
import { ChangeLine } from "../../shared/ChangeLine";
import { DayField } from "../../shared/DayField";
import { countOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import classes from "./HomeRoom.module.css";

const states = { draft: "draft", "in-review": "in review", approved: "approved", "handed-off": "handed off" };
const form = "YYYY-MM-DD";

/** The press that ends a carry is no press on the link that was carried: it is held back before anyone hears of it. */
const hold = (event: Event) => event.preventDefault();
const carry = () => window.addEventListener("click", hold, true);
const letGo = () => setTimeout(() => window.removeEventListener("click", hold, true));

/** What goes out when, day by day; a draft is carried to another day, or given one. */
export function Calendar() {
  const [span, setSpan] = useState<"week" | "month">("week");
  const [first, setFirst] = useState(() => dayjs().format(form));
  const days = Array.from({ length: span === "week" ? 14 : 42 }, (_, at) => dayjs(first).add(at, "day").format(form));
  const calendar = useQuery(queries.calendar(days[0] ?? first, days.at(-1) ?? first));
  const move = useMove();
  // A press that does not carry opens the link.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const dropped = ({ active, over }: DragEndEvent) => {
    letGo();
    const entry = calendar.data?.emails.find((e) => e.id === active.id);
    if (entry && over && over.id !== entry.day) {
      move.to(entry, String(over.id));
    }
  };
  return (
    <section className={classes.calendar} aria-label="Going out">
      <header>
        <h2>Going out</h2>
        <span className={classes.spans}>
          {(["week", "month"] as const).map((one) => (
            <button key={one} type="button" className="plain" aria-pressed={span === one} onClick={() => setSpan(one)}>
              {one === "week" ? "Two weeks" : "Six weeks"}
            </button>
          ))}
          <button
            type="button"
            className="plain"
            aria-label="Earlier"
            onClick={() => setFirst(dayjs(first).subtract(7, "day").format(form))}
          >
            ↑
          </button>
          <button type="button" className="plain" aria-label="Later" onClick={() => setFirst(dayjs(first).add(7, "day").format(form))}>
            ↓
          </button>
        </span>
      </header>
      <Pending query={calendar} what="The calendar" />
      <ChangeLine said={move.said} fault={move.fault} undo={move.undo} className={classes.moved} />
      <DndContext sensors={sensors} onDragStart={carry} onDragCancel={letGo} onDragEnd={dropped}>
        <ol className={classes.days}>
          {days.map((day) => (
            <Day
              key={day}
              day={day}
              emails={calendar.data?.emails.filter((e) => e.day === day) ?? []}
              snippets={calendar.data?.snippets.filter((s) => s.day === day) ?? []}
              onMove={move.to}
            />
          ))}
        </ol>
      </DndContext>
      <p className="soft">
        <a href="/api/calendar.ics" download="going-out.ics">
          As a calendar file
        </a>
      </p>
    </section>
  );
}

/** Gives an email another day: an edit like any other, taken back like any other. */
function useMove() {
  const cache = useQueryClient();
  const [last, setLast] = useState<{ entry: CalendarEntry; day: string }>();
  const put = useMutation({
    mutationFn: ({ entry, day }: { entry: CalendarEntry; day: string }) =>
      ask(
        api.POST("/api/emails/{id}/edits", {
          params: { path: { id: entry.id } },
          body: {
            base: entry.revision,
            own: null,
            seen: null,
            styleVersion: null,
            edits: [{ id: newId(), step: newId(), edit: { kind: "set-detail", field: "sendDay", value: day } }],
          },
        }),
      ),
    onMutate: () => setLast(undefined),
    onSuccess: (_, moved) => setLast(moved),
    onSettled: () => Promise.all(["calendar", "home"].map((key) => cache.invalidateQueries({ queryKey: [key] }))),
  });
  const revision = put.data?.revision;
  return {
    to: (entry: CalendarEntry, day: string) => put.mutate({ entry, day }),
    said: last && `${last.entry.name} goes out on ${nameOf(last.day)} now.`,
    fault: put.error?.message,
    undo:
      last && revision !== undefined
        ? () => put.mutate({ entry: { ...last.entry, revision, day: last.day }, day: last.entry.day })
        : undefined,
  };
}

const nameOf = (day: string) =>
  new Intl.DateTimeFormat(undefined, { weekday: "short", day: "numeric", month: "short" }).format(new Date(day));

interface DayProps {
  day: string;
  emails: CalendarEntry[];
  snippets: { id: string; name: string; uses: number }[];
  onMove: (entry: CalendarEntry, day: string) => void;
}

function Day({ day, emails, snippets, onMove }: DayProps) {
  const { setNodeRef, isOver } = useDroppable({ id: day });
  const today = day === dayjs().format(form);
  return (
    <li ref={setNodeRef} className={classes.day} data-over={isOver} data-today={today}>
      <span className={classes.date}>
        {nameOf(day)}
        {today && <span> today</span>}
      </span>
      <div>
        {emails.map((entry) => (
          <Entry key={entry.id} entry={entry} onMove={onMove} />
        ))}
        {snippets.map((snippet) => (
          <div key={snippet.id} className={classes.entry} data-state="expires">
            <Link to={`/snippets/${snippet.id}`}>Snippet “{snippet.name}”</Link>
            <span className="soft">■ expires, used in {countOf(snippet.uses, "email")} not yet out</span>
          </div>
        ))}
      </div>
    </li>
  );
}

function Entry({ entry, onMove }: { entry: CalendarEntry; onMove: DayProps["onMove"] }) {
  const drag = useDraggable({ id: entry.id, disabled: !entry.mayMove });
  const [moving, setMoving] = useState(false);
  return (
    <div
      ref={drag.setNodeRef}
      className={classes.entry}
      data-state={entry.state}
      data-carried={drag.isDragging}
      style={drag.transform ? { transform: `translate(${drag.transform.x}px, ${drag.transform.y}px)` } : undefined}
      {...drag.listeners}
    >
      <Link to={entry.state === "in-review" ? `/emails/${entry.id}/review` : `/emails/${entry.id}`} draggable={false}>
        {entry.name}
      </Link>
      <span className="soft">
        {entry.campaignTypeName}, {states[entry.state]}
        {entry.with && ` with ${entry.with}`}
        {entry.mayMove && (
          <Popover opened={moving} onChange={setMoving} trapFocus position="bottom-end">
            <Popover.Target>
              <button type="button" className={`plain underlined ${classes.move}`} onClick={() => setMoving(!moving)}>
                Other day<span className="only-heard"> for {entry.name}</span>
              </button>
            </Popover.Target>
            <Popover.Dropdown>
              <DayField
                label="Goes out on"
                value={entry.day}
                onChange={(day) => {
                  setMoving(false);
                  if (day && day !== entry.day) {
                    onMove(entry, day);
                  }
                }}
              />
            </Popover.Dropdown>
          </Popover>
        )}
      </span>
    </div>
  );
}
