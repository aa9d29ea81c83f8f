import { useEffect, useRef, useState } from "react";

/** What is being written in a field: it holds against older answers while it has the last word, and is sent as it changes. */
export function useWritten(value: string, send: (next: string) => void): [string, (next: string) => void] {
  const [written, setWritten] = useState(value);
  const sent = useRef(value);
  useEffect(() => {
    // An answer that repeats what was sent is no news; anything else was set elsewhere.
    if (value !== sent.current.trim()) {
      setWritten(value);
    }
    sent.current = value;
  }, [value]);
  return [
    written,
    (next) => {
      setWritten(next);
      sent.current = next;
      send(next);
    },
  ];
}
