const focusable = "button:not(:disabled), a[href], input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex='0']";

/**
 * Brings the focus back where what had it has gone: to what stands nearest to where it was. Otherwise whoever works by
 * keyboard would begin again at the top of the page.
 */
export function keepFocus(): () => void {
  let last: Element | undefined;
  let around: Element[] = [];
  const remember = (event: FocusEvent) => {
    last = event.target as Element;
    around = [];
    for (let at = last.parentElement; at && at !== document.body; at = at.parentElement) {
      around.push(at);
    }
  };
  const observer = new MutationObserver(() => {
    if (!last || last.isConnected || document.activeElement !== document.body) {
      return;
    }
    last = undefined;
    const place = around.find((element) => element.isConnected);
    // A dialog gives it back by itself.
    if (!place || place.id === "root") {
      return;
    }
    place.querySelector<HTMLElement>(focusable)?.focus({ preventScroll: true });
  });
  document.addEventListener("focusin", remember);
  observer.observe(document.body, { childList: true, subtree: true });
  return () => {
    document.removeEventListener("focusin", remember);
    observer.disconnect();
  };
}
