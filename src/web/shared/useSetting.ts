import { useMutation } from "@tanstack/react-query";
import { useEffect, useId, useRef, useState } from "react";
import type { Problem } from "../api/client";
import { onSignedIn } from "../api/session";
import { alike } from "./alike";

interface Own<T> {
  value: T;
  /** What the server said before it took the value; not there until it did. */
  over?: { stored: T };
}

/**
 * A value that is stored as soon as it is changed: shown at once, sent in the order of the changes, and held until the
 * server's answer is on the screen.
 *
 * @param stored What the server says.
 * @param store Sends it, and tells what is stored now.
 * @param refused What becomes of a refused value: it goes, so that nothing is shown as stored that is not, or it stays for whoever typed it to mend.
 */
export function useSetting<T>(stored: T, store: (value: T) => Promise<T>, refused: "goes" | "stays" = "goes") {
  const [own, setOwn] = useState<Own<T>>();
  const sent = useRef<Own<T>>(undefined);
  /** What was set when nobody was signed in any more: it goes with the next sign-in. */
  const waiting = useRef<Own<T>>(undefined);
  const put = useMutation({
    scope: { id: useId() },
    mutationFn: (one: Own<T>) => store(one.value),
    // Only the latest counts: what was changed since is on its way, or still being typed.
    onSuccess: (value, one) => setOwn((now) => (now === one ? { value, over: { stored: latest.current.stored } } : now)),
    onError: (problem: Problem, one) => {
      sent.current = undefined;
      if (problem.status === 401) {
        waiting.current = one;
        return;
      }
      setOwn((now) => (now === one && refused === "goes" ? undefined : now));
    },
  });
  const begin = (one: Own<T>) => {
    sent.current = one;
    waiting.current = undefined;
    const stored = put.mutateAsync(one);
    // A refusal is told by "fault" to those who do not wait for it.
    stored.catch(() => undefined);
    return stored;
  };
  const goOn = useRef(() => {});
  goOn.current = () => waiting.current && void begin(waiting.current);
  useEffect(() => onSignedIn(() => goOn.current()), []);
  const isOver = own?.over !== undefined && (alike(stored, own.value) || !alike(stored, own.over.stored));
  const value = own && !isOver ? own.value : stored;
  const latest = useRef({ stored, value });
  latest.current = { stored, value };
  useEffect(() => {
    if (isOver) {
      setOwn((now) => (now === own ? undefined : now));
    }
  }, [isOver, own]);

  /** Keeps it here: it is being typed, or cannot be stored yet. */
  const write = (next: T | ((latest: T) => T)) => {
    const made = { value: typeof next === "function" ? (next as (latest: T) => T)(latest.current.value) : next };
    latest.current.value = made.value;
    setOwn(made);
    return made;
  };
  return {
    value,
    write,
    /** Stores it: a value, or one made from the latest, which may not be on the screen yet. */
    set: (next: T | ((latest: T) => T)) => begin(write(next)),
    /** Stores what was written, where that is another value. */
    send: () => {
      if (own && own !== sent.current && !own.over && !alike(own.value, stored)) {
        begin(own);
      }
    },
    saving: put.isPending,
    saved: put.isSuccess,
    fault: put.error?.message,
  };
}

export type Setting<T> = ReturnType<typeof useSetting<T>>;
