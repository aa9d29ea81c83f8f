import { useEffect, useRef, useState } from "react";
import { useDeskContext } from "../useDesk";

/**
 * The value of a field while it is written: shown at once, sent as an edit, and replaced by the server's only when
 * none of one's own is on its way.
 */
export function useKeptValue<T>(kept: T, target: string, send: (value: T) => void): [T, (value: T) => void] {
  const { store } = useDeskContext();
  const [value, setValue] = useState(kept);
  const shown = useRef(JSON.stringify(kept));
  const said = JSON.stringify(kept);

  useEffect(() => {
    if (said !== shown.current && !store.isPending(target)) {
      shown.current = said;
      setValue(JSON.parse(said));
    }
  }, [said, store, target]);

  const change = (next: T) => {
    shown.current = JSON.stringify(next);
    setValue(next);
    send(next);
  };
  return [value, change];
}
