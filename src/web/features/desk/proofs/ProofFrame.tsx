import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { heightOf } from "../../../shared/heightOf";
import { useNodeOffers } from "../../nodes/nodeOffers";
import type { DeskState } from "../DeskStore";
import { takesInProof } from "../drag/proofPlaces";
import { useDeskContext } from "../useDesk";
import { markNodes, nodesOfValue } from "./nodeMarks";
import classes from "./ProofFrame.module.css";
import { caretAt, type ProofLook, patchProof } from "./patchProof";
import { drawMarks, type ProofMarks } from "./proofMarks";

interface Props {
  state: DeskState;
  width: number;
  scale: number;
  label: string;
  dark: boolean;
  picturesOff: boolean;
  hiddenShown: boolean;
  /** What some readers see only is left out. */
  everyone?: boolean;
  /** It shows what the desk holds, and is told of it before the room around it is drawn. */
  live?: boolean;
  /** Where a block goes in, or may be added. */
  marks: ProofMarks;
  onPiece: (press: Press) => void;
  onAdd: (row: string) => void;
}

/** Where a proof was pressed. */
export interface Press {
  row: string;
  piece?: string;
  /** Characters of the piece before the point. */
  caret?: number;
  /** In the lower half of the piece. */
  below: boolean;
}

/**
 * One proof: the compiled email in a frame that runs no script. This page patches the rows that changed, so that
 * nothing reloads and nothing jumps.
 */
export function ProofFrame({ state, width, scale, label, dark, picturesOff, hiddenShown, everyone, live, marks, onPiece, onAdd }: Props) {
  const { choice, store } = useDeskContext();
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(600);
  const [ready, setReady] = useState(false);
  const look = useMemo<ProofLook>(
    () => ({ dark, picturesOff, hiddenShown, everyone, chosen: choice.row, piece: choice.piece, empty: marks.empty }),
    [dark, picturesOff, hiddenShown, everyone, choice.row, choice.piece, marks.empty],
  );
  const press = useRef({ onPiece, onAdd });
  press.current = { onPiece, onAdd };

  const measure = useCallback(() => {
    const body = frame.current?.contentDocument?.body;
    if (body) {
      setHeight(heightOf(body));
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
      const adds = target.closest("[data-add-to]")?.getAttribute("data-add-to");
      if (adds) {
        press.current.onAdd(adds);
        return;
      }
      const row = target.closest("[data-row]")?.getAttribute("data-row");
      const piece = target.closest("[data-piece]");
      if (row) {
        const box = piece?.getBoundingClientRect();
        press.current.onPiece({
          row,
          piece: piece?.getAttribute("data-piece") ?? undefined,
          caret: piece ? caretAt(page, piece, event.clientX, event.clientY) : undefined,
          below: box !== undefined && event.clientY > box.top + box.height / 2,
        });
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

  // After the rows are as they stand now, and again where their heights change.
  useLayoutEffect(() => {
    const page = frame.current?.contentDocument;
    if (ready && page && height > 0 && state.rows.size >= 0) {
      drawMarks(page, marks);
    }
  }, [ready, marks, height, state.rows]);
  // What a snippet or field says in the field that is in hand.
  const { shown } = useNodeOffers();
  const field = state.rows
    .get(choice.row)
    ?.columns.flatMap((c) => c.blocks)
    .find((b) => b.id === choice.piece)
    ?.fields.find((f) => f.name === choice.field)?.value;
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (ready && page) {
      markNodes(page, choice.piece, field ? nodesOfValue(field).map((node) => shown(node) ?? "") : []);
    }
  }, [ready, choice.piece, field, shown]);
  useEffect(() => (frame.current ? takesInProof(frame.current, scale) : undefined), [scale]);

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
