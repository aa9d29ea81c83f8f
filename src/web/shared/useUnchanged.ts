import { replaceEqualDeep } from "@tanstack/react-query";
import { useRef } from "react";

/** A list or record as it was drawn last, for as long as it says the same: what takes it need not be drawn again. */
export function useUnchanged<T>(value: T): T {
  const last = useRef(value);
  last.current = replaceEqualDeep(last.current, value);
  return last.current;
}
