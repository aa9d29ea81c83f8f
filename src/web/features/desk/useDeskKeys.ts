import { useEffect } from "react";
import type { DeskStore } from "./DeskStore";

/** Keys that work anywhere on the desk. Those of the running order stand there. */
export function useDeskKeys(store: DeskStore, onHelp: () => void) {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const writing = (event.target as HTMLElement).closest("input, textarea, [contenteditable=true]") !== null;
      const key = event.key.toLowerCase();
      // Keys pressed in a dialog are the dialog's: what lies under it is not seen.
      if ((event.target as HTMLElement).closest("[role=dialog]") || document.querySelector("[role=dialog][aria-modal=true]")) {
        return;
      }
      if ((event.ctrlKey || event.metaKey) && key === "z") {
        event.preventDefault();
        store.move(event.shiftKey ? "redo" : "undo");
      } else if ((event.ctrlKey || event.metaKey) && key === "y") {
        event.preventDefault();
        store.move("redo");
      } else if (event.key === "?" && !writing) {
        onHelp();
      } else if (event.key === "Escape" && (event.target as HTMLElement).closest("aside")) {
        document.querySelector<HTMLElement>("[data-order] [aria-current=true]")?.focus();
      }
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [store, onHelp]);
}
