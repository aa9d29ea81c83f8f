import { useEffect } from "react";
import type { DeskStore } from "./DeskStore";

const inDialog = () => document.querySelector("[role=dialog][aria-modal=true]") !== null;

/** Keys that work anywhere on the desk. Those of the running order stand there. */
export function useDeskKeys(store: DeskStore, onHelp: () => void, onNext: () => void) {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const writing = (event.target as HTMLElement).closest("input, textarea, [contenteditable=true]") !== null;
      const key = event.key.toLowerCase();
      // Keys pressed in a dialog are the dialog's: what lies under it is not seen.
      if (inDialog()) {
        if ((event.ctrlKey || event.metaKey) && (key === "z" || key === "y") && !writing) {
          event.preventDefault();
        }
        return;
      }
      if ((event.ctrlKey || event.metaKey) && key === "z") {
        event.preventDefault();
        store.move(event.shiftKey ? "redo" : "undo");
      } else if ((event.ctrlKey || event.metaKey) && key === "y") {
        event.preventDefault();
        store.move("redo");
      } else if (event.key === "F8") {
        event.preventDefault();
        onNext();
      } else if (event.key === "?" && !writing) {
        onHelp();
      } else if (event.key === "Escape" && (event.target as HTMLElement).closest("aside")) {
        document.querySelector<HTMLElement>("[data-order] [aria-current=true]")?.focus();
      }
    };
    // The browser's own undo reaches whatever was written last, under a dialog too.
    const guard = (event: InputEvent) => {
      if (event.inputType.startsWith("history") && inDialog() && !(event.target as HTMLElement).closest("[role=dialog]")) {
        event.preventDefault();
      }
    };
    window.addEventListener("keydown", listen);
    window.addEventListener("beforeinput", guard, true);
    return () => {
      window.removeEventListener("keydown", listen);
      window.removeEventListener("beforeinput", guard, true);
    };
  }, [store, onHelp, onNext]);
}
