import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { DeskState } from "../DeskStore";
import { useDeskContext } from "../useDesk";
import classes from "./ProofFrame.module.css";
import { caretAt, type ProofLook, patchProof } from "./patchProof";

interface Props {
  state: DeskState;
  width: number;
  scale: number;
  label: string;
  dark: boolean;
  picturesOff: boolean;
  hiddenShown: boolean;
  /** It shows what the desk holds, and is told of it before the room around it is drawn. */
  live?: boolean;
  onPiece: (row: string, piece: string | undefined, caret: number | undefined) => void;
}

/**
 * One proof: the compiled email in a frame that runs no script. This page patches the rows that changed, so that
 * nothing reloads and nothing jumps.
 */
export function ProofFrame({ state, width, scale, label, dark, picturesOff, hiddenShown, live, onPiece }: Props) {
  const { choice, store } = useDeskContext();
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(600);
  const [ready, setReady] = useState(false);
  const look = useMemo<ProofLook>(
    () => ({ dark, picturesOff, hiddenShown, chosen: choice.row, piece: choice.piece }),
    [dark, picturesOff, hiddenShown, choice.row, choice.piece],
  );
  const press = useRef(onPiece);
  press.current = onPiece;

  const measure = useCallback(() => {
    const body = frame.current?.contentDocument?.body;
    if (body) {
      setHeight(Math.ceil(body.getBoundingClientRect().height) + 1);
    }
  }, []);

  // The frame's document is made once and at once, not loaded; what a click means is asked at the time.
  useLayoutEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page) {
      return;
    }
    page.open();
    page.write("<!doctype html><html><head></head><body></body></html>");
    page.close();
    page.addEventListener("click", (event) => {
      event.preventDefault();
      const target = event.target as Element;
      const row = target.closest("[data-row]")?.getAttribute("data-row");
      const piece = target.closest("[data-piece]");
      if (row) {
        press.current(
          row,
          piece?.getAttribute("data-piece") ?? undefined,
          piece ? caretAt(page, piece, event.clientX, event.clientY) : undefined,
        );
      }
    });
    page.addEventListener("load", measure, true);
    new ResizeObserver(measure).observe(page.documentElement);
    measure();
    setReady(true);
  }, [measure]);

  const bringTo = useCallback(
    ({ desk, rows }: DeskState) => {
      const page = frame.current?.contentDocument;
      if (ready && page && desk) {
        patchProof(page, desk, rows, look);
      }
    },
    [ready, look],
  );
  // Before the screen is painted, not after it: a proof is never a frame behind its field.
  useLayoutEffect(() => bringTo(state), [bringTo, state]);
  useLayoutEffect(() => (live ? store.subscribeProof(() => bringTo(store.snapshot())) : undefined), [live, store, bringTo]);

  useEffect(() => {
    if (ready && choice.row !== "details") {
      const page = frame.current?.contentDocument;
      page?.querySelector(`[data-row="${CSS.escape(choice.row)}"]`)?.scrollIntoView({ block: "nearest" });
    }
  }, [ready, choice.row]);

  return (
    <figure className={classes.proof} style={{ width: width * scale }}>
      <figcaption>
        {label}, {width}
      </figcaption>
      <div className={classes.sheet} style={{ width: width * scale, height: height * scale }}>
        <iframe
          ref={frame}
          title={`${label} proof`}
          sandbox="allow-same-origin"
          tabIndex={-1}
          style={{ width, height, transform: `scale(${scale})` }}
        />
      </div>
    </figure>
  );
}
