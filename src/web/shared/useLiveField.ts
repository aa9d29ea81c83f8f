import { createContext, useCallback, useContext, useEffect, useRef, useSyncExternalStore } from "react";
import type { Edit } from "../api/types";
import { alike } from "./alike";
import type { LiveValue, LiveValues } from "./LiveValues";

/** A document that is being edited, as its controls need it. */
export interface Editing {
  live: LiveValues;
  /** Sends edits of one place; what is typed there without a pause is one undo step. */
  write(target: string, ...edits: Edit[]): void;
  /** The revision of the answer that is on the screen. */
  shown: { revision: number };
}

export const EditingContext = createContext<Editing | null>(null);

/**
 * The value of a place while it is chosen or ticked: shown at once, sent, and held against answers that do not know of it
 * yet. What someone else sets, an undo and a refusal show as soon as nothing of one's own is on its way.
 *
 * @param served What the server's answer says.
 * @param target Any name of the place that all its controls share.
 * @param edits What sets it; nothing, where the value cannot be sent, half a colour for example.
 * @param kept What the server makes of a value, where that is not the value itself: a name without blanks around it.
 * @param revision Of the answer that says what is served, where that is not the one on the screen.
 * @returns The value and how to set it: to a value, or to one made from the latest.
 */
export function useLiveField<T>(
  served: T,
  target: string,
  edits: MakeEdits<T>,
  kept: (value: T) => unknown = itself,
  revision?: number,
): [T, SetValue<T>] {
  const [value, set] = useField(served, target, edits, kept, revision, false);
  return [value, set];
}

/** The same where it is typed: what was refused stays as it was typed, for whoever typed it to mend, and the reason is the third given back. */
export function useTypedField<T>(
  served: T,
  target: string,
  edits: MakeEdits<T>,
  kept: (value: T) => unknown = itself,
  revision?: number,
): [T, SetValue<T>, string | undefined] {
  return useField(served, target, edits, kept, revision, true);
}

type MakeEdits<T> = (value: T) => Edit | Edit[] | undefined;
type SetValue<T> = (next: T | ((latest: T) => T)) => void;

function useField<T>(
  served: T,
  target: string,
  edits: MakeEdits<T>,
  kept: (value: T) => unknown,
  revision: number | undefined,
  typed: boolean,
): [T, SetValue<T>, string | undefined] {
  const editing = useContext(EditingContext);
  if (!editing) {
    throw new Error("Only where a document is edited.");
  }
  const { live, shown } = editing;
  const entry = useSyncExternalStore(live.subscribe, () => live.get(target));
  const isOver = (one: LiveValue, now: T) =>
    one.state === "refused"
      ? !typed
      : one.state === "stored" && (revision ?? shown.revision) >= one.revision && !alike(now, kept(one.value as T));
  const over = entry !== undefined && isOver(entry, served);
  useEffect(() => {
    // A key may have been pressed since this was drawn.
    if (over) {
      live.end(target, entry);
    }
  });
  useEffect(() => () => live.leave(target), [live, target]);

  const latest = useRef({ served, edits, isOver });
  latest.current = { served, edits, isOver };
  const set = useCallback<SetValue<T>>(
    (next) => {
      const { served: now, edits: make, isOver: isPast } = latest.current;
      const one = live.get(target);
      const value = typeof next === "function" ? (next as (latest: T) => T)(one && !isPast(one, now) ? (one.value as T) : now) : next;
      const made = make(value) ?? [];
      const all = Array.isArray(made) ? made : [made];
      live.set(target, value, all.length > 0);
      if (all.length > 0) {
        editing.write(target, ...all);
      }
    },
    [live, target, editing],
  );
  return entry && !over ? [entry.value as T, set, entry.reason] : [served, set, undefined];
}

const itself = <T>(value: T): unknown => value;

/** Text without blanks around it: what the server makes of a name. */
export const trimmed = (text: string) => text.trim();

/** A list with an item taken out where it is in it, else put at its end. */
export const toggled = <T>(list: readonly T[], item: T): T[] => (list.includes(item) ? list.filter((i) => i !== item) : [...list, item]);
