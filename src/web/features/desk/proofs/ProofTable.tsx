import { NativeSelect } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { useCallback, useMemo, useState } from "react";
import type { ProofView } from "../../../api/types";
import { kilobytesOf } from "../../../shared/format";
import { lazily } from "../../../shared/lazily";
import { blocksOf, type Desk, type DeskState } from "../DeskStore";
import { placeBeside } from "../drag/proofPlaces";
import { type BlockPlace, useDeskContext } from "../useDesk";
import { InboxView } from "./InboxView";
import { PlainText } from "./PlainText";
import { type Press, ProofFrame } from "./ProofFrame";
import classes from "./ProofTable.module.css";
import type { ProofMarks } from "./proofMarks";
import { ReaderBar } from "./ReaderBar";
import { Ruler } from "./Ruler";
import { useReaderView, useSimulated } from "./useViews";
import { ViewedProofs } from "./ViewedProofs";

const BlockSlip = lazily(() => import("../blocks/BlockSlip"));
const PictureStrip = lazily(() => import("./PictureStrip"));

type View = "proofs" | "plain" | "inbox" | ProofView;

const simulated: Record<ProofView, string> = {
  "no-media-queries": "Without media queries",
  "partly-recoloured": "Partly inverted",
  "fully-recoloured": "Fully inverted",
};

const phone = 375;
const margin = 20;
const gap = 24;

/** The table that the proofs lie on: desktop and phone side by side, always both, under the ruler. */
export function ProofTable({ state }: { state: DeskState }) {
  const { store, choice, choose, adding, addBlock, dropPlace, reading } = useDeskContext();
  const desk = state.desk as Desk;
  const area = useElementSize();
  const [width, setWidth] = useState(desk.proof.width);
  const [dark, setDark] = useState(false);
  const [picturesOff, setPicturesOff] = useState(false);
  const [hiddenShown, setHiddenShown] = useState(false);
  const [pictures, setPictures] = useState(false);
  // What lies on the table: the proofs, as a client shows them, or another form of the email.
  const [view, setView] = useState<View>("proofs");
  const { as, setAs, readers, step, loaded } = reading;
  const [everyone, setEveryone] = useState(false);
  const differs = [...state.rows.values()].some((row) => row.condition || blocksOf(row).some((b) => b.condition));
  const read = useReaderView(store.kind, desk, as);
  const clientView = !as && view in simulated ? (view as ProofView) : undefined;
  const client = useSimulated(store.kind, desk, clientView);
  // One scale for both proofs and the ruler: what the ruler says is what lies below it.
  const scale = Math.min(1, Math.max(0.4, ((area.width || 728) - 2 * margin - gap - 12) / (desk.proof.width + phone)));

  const marks = useMemo(() => marksOf(state, choice.row, dropPlace ?? adding), [state, choice.row, dropPlace, adding]);
  const onAdd = useCallback(
    (row: string) => {
      const column = store.snapshot().rows.get(row)?.columns.at(-1);
      if (column) {
        addBlock({ row, column: column.id, index: column.blocks.length });
      }
    },
    [store, addBlock],
  );
  const isAdding = adding !== undefined;
  const onPiece = useCallback(
    ({ row: rowId, piece, caret, below }: Press) => {
      const row = store.snapshot().rows.get(rowId);
      // While blocks are put in, a press moves the mark.
      if (isAdding && row?.shape.allowed) {
        addBlock(placeBeside(rowId, piece, below, store.snapshot()));
        return;
      }
      const block = row && blocksOf(row).find((b) => b.id === piece);
      if (block && !block.content.allowed) {
        store.say(block.content.reason ?? "");
        choose(rowId);
      } else {
        choose(rowId, block?.id, block?.fields[0]?.name, caret);
      }
    },
    [store, choose, isAdding, addBlock],
  );

  const look = { state, dark, picturesOff, hiddenShown, everyone: differs && everyone && !as, scale, marks, onPiece, onAdd };
  return (
    <main className={classes.table} aria-label="Proofs">
      <Ruler width={width} natural={desk.proof.width} scale={scale} margin={margin} onWidth={setWidth} />
      {as && <ReaderBar as={as} readers={readers} loaded={loaded} fault={read.error?.message} onAs={setAs} onStep={step} />}
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1). */}
      <div className={classes.area} ref={area.ref} role="group" aria-label="Proofs, scrolling" tabIndex={0}>
        {view === "plain" ? (
          as ? (
            <pre className={classes.readText}>{read.data?.text}</pre>
          ) : (
            <PlainText kind={store.kind} id={desk.id} revision={desk.revision} />
          )
        ) : view === "inbox" ? (
          <InboxView kind={store.kind} id={desk.id} revision={desk.revision} read={as && read.data?.inbox} />
        ) : (
          <div className={classes.proofs} style={{ padding: `0 ${margin}px 40px`, gap }}>
            {as || clientView ? (
              <ViewedProofs {...look} dark={as ? dark : false} viewed={as ? read.data : client} width={width} phone={phone} />
            ) : (
              <>
                <ProofFrame {...look} live width={width} label="Desktop" />
                <ProofFrame {...look} live width={phone} label="Phone" />
              </>
            )}
          </div>
        )}
      </div>
      {adding && <BlockSlip state={state} place={adding} />}
      {pictures && <PictureStrip onClose={() => setPictures(false)} />}

      <footer className={classes.foot} data-more={differs && !as}>
        <Toggle on={dark} set={setDark} name="Dark" />
        <Toggle on={picturesOff} set={setPicturesOff} name="Pictures off" />
        <Toggle on={hiddenShown} set={setHiddenShown} name="Show hidden" />
        <Toggle on={pictures} set={setPictures} name="Picture library" />
        <Toggle on={as !== undefined} set={(on) => setAs(on ? { reader: "", day: "" } : undefined)} name="As reader" />
        {differs && !as && <Toggle on={everyone} set={setEveryone} name="Everyone sees" />}
        <Toggle on={view === "plain"} set={(on) => setView(on ? "plain" : "proofs")} name="Plain text" />
        <Toggle on={view === "inbox"} set={(on) => setView(on ? "inbox" : "proofs")} name="Inbox" />
        <NativeSelect
          className={classes.clients}
          aria-label="As some clients show it, simulated"
          data-on={view in simulated}
          value={view in simulated ? view : ""}
          data={[
            { value: "", label: "As sent" },
            ...Object.entries(simulated).map(([value, name]) => ({ value, label: `${name}, simulated` })),
          ]}
          onChange={(e) => setView((e.currentTarget.value as ProofView) || "proofs")}
        />
        <span className={classes.weight}>
          {kilobytesOf(desk.proof.weight.bytes).replace(" KB", "")} of {kilobytesOf(desk.proof.weight.most)}
        </span>
      </footer>
    </main>
  );
}

/** Where a block goes in, or that the chosen row takes blocks. */
function marksOf({ rows, desk }: DeskState, chosen: string, place?: BlockPlace): ProofMarks {
  const row = rows.get(place?.row ?? chosen);
  const takes = row?.shape.allowed && !desk?.asAuthor ? row : undefined;
  const empty = takes !== undefined && blocksOf(takes).length === 0;
  if (place) {
    const blocks = row?.columns.find((c) => c.id === place.column)?.blocks ?? [];
    const at = place.index < 0 ? blocks.length : place.index;
    return {
      empty,
      place: { row: place.row, after: blocks[at - 1]?.id ?? (at > 0 ? blocks.at(-1)?.id : undefined), before: blocks[at]?.id },
    };
  }
  return takes ? { addTo: takes.id, empty } : {};
}

function Toggle({ on, set, name }: { on: boolean; set: (on: boolean) => void; name: string }) {
  return (
    <button type="button" className={`plain ${classes.toggle}`} aria-pressed={on} onClick={() => set(!on)}>
      {name}
    </button>
  );
}
