import { useSyncExternalStore } from "react";

/** The script this page was opened with, named after its content by the build. Empty: the page is being developed. */
const own =
  typeof document === "undefined" ? "" : (document.querySelector('script[type=module][src^="/assets/"]')?.getAttribute("src") ?? "");

let older = false;
const listeners = new Set<() => void>();

/** Reads from an answer which page the server gives out by now. */
export function hearRelease({ headers }: Response) {
  const now = headers.get("Page-Script");
  const is = own !== "" && now !== null && now !== own;
  if (now !== null && is !== older) {
    older = is;
    for (const listener of listeners) listener();
  }
}

function listen(listener: () => void) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

/** Whether the server was updated since this page was opened. */
export const useIsOlder = () => useSyncExternalStore(listen, () => older);
