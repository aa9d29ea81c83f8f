import { useEffect, useRef, useState } from "react";
import { meet, type Present } from "../../api/live";
import type { Choice } from "./useDesk";

/** Who else has the document open, and where they are. */
export function usePresence(id: string, choice: Choice): Present[] {
  const [others, setOthers] = useState<Present[]>([]);
  const meeting = useRef<ReturnType<typeof meet>>(undefined);
  useEffect(() => {
    const started = meet(id, setOthers);
    meeting.current = started;
    return () => started.stop();
  }, [id]);
  const place = [choice.row, choice.piece, choice.field].filter(Boolean).join("/");
  useEffect(() => meeting.current?.at(place), [place]);
  return others;
}

/** "Imran Patel" as "IP". */
export const initials = (name: string) =>
  name
    .split(/\s+/)
    .map((part) => part[0] ?? "")
    .join("")
    .slice(0, 2)
    .toUpperCase();
