import { NativeSelect } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { useCallback, useState } from "react";
import type { ProofView } from "../../../api/types";
import { kilobytesOf } from "../../../shared/format";
import { blocksOf, type Desk, type DeskState } from "../DeskStore";
import { useDeskContext } from "../useDesk";
import { InboxView } from "./InboxView";
import { PlainText } from "./PlainText";
import { ProofFrame } from "./ProofFrame";
import classes from "./ProofTable.module.css";
import { Ruler } from "./Ruler";
import { SimulatedProofs } from "./SimulatedProofs";

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
  const { store, choose } = useDeskContext();
  const desk = state.desk as Desk;
  const area = useElementSize();
  const [width, setWidth] = useState(desk.width);
  const [dark, setDark] = useState(false);
  const [picturesOff, setPicturesOff] = useState(false);
  const [hiddenShown, setHiddenShown] = useState(false);
  // What lies on the table: the proofs, as a client shows them, or another form of the email.
  const [view, setView] = useState<View>("proofs");
  // One scale for both proofs and the ruler: what the ruler says is what lies below it.
  const scale = Math.min(1, Math.max(0.4, ((area.width || 728) - 2 * margin - gap - 12) / (desk.width + phone)));

  const onPiece = useCallback(
    (rowId: string, piece: string | undefined, caret: number | undefined) => {
      const row = store.snapshot().rows.get(rowId);
      const block = row && blocksOf(row).find((b) => b.id === piece);
      if (block && !block.content.allowed) {
        store.say(block.content.reason ?? "");
        choose(rowId);
      } else {
        choose(rowId, block?.id, block?.fields[0]?.name, caret);
      }
    },
    [store, choose],
  );

  const look = { state, dark, picturesOff, hiddenShown, scale, onPiece };
  return (
    <main className={classes.table} aria-label="Proofs">
      <Ruler width={width} natural={desk.width} scale={scale} margin={margin} onWidth={setWidth} />
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1). */}
      <div className={classes.area} ref={area.ref} role="group" aria-label="Proofs, scrolling" tabIndex={0}>
        {view === "plain" ? (
          <PlainText kind={store.kind} id={desk.id} revision={desk.revision} />
        ) : view === "inbox" ? (
          <InboxView kind={store.kind} id={desk.id} revision={desk.revision} />
        ) : (
          <div className={classes.proofs} style={{ padding: `0 ${margin}px 40px`, gap }}>
            {view === "proofs" ? (
              <>
                <ProofFrame {...look} live width={width} label="Desktop" />
                <ProofFrame {...look} live width={phone} label="Phone" />
              </>
            ) : (
              <SimulatedProofs {...look} dark={false} view={view} width={width} phone={phone} />
            )}
          </div>
        )}
      </div>
      <footer className={classes.foot}>
        <Toggle on={dark} set={setDark} name="Dark" />
        <Toggle on={picturesOff} set={setPicturesOff} name="Pictures off" />
        <Toggle on={hiddenShown} set={setHiddenShown} name="Show hidden" />
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
          {kilobytesOf(desk.weight.bytes)} of {kilobytesOf(desk.weight.most)}
        </span>
      </footer>
    </main>
  );
}

function Toggle({ on, set, name }: { on: boolean; set: (on: boolean) => void; name: string }) {
  return (
    <button type="button" className={`plain ${classes.toggle}`} aria-pressed={on} onClick={() => set(!on)}>
      {name}
    </button>
  );
}
