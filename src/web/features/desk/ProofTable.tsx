import { useElementSize } from "@mantine/hooks";
import { useCallback, useState } from "react";
import { blocksOf, type Desk, type DeskState } from "./DeskStore";
import { PlainText } from "./PlainText";
import { ProofFrame } from "./ProofFrame";
import classes from "./ProofTable.module.css";
import { Ruler } from "./Ruler";
import { useDeskContext } from "./useDesk";

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
  const [plain, setPlain] = useState(false);
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

  const look = { state, dark, picturesOff, scale, onPiece };
  return (
    <section className={classes.table} aria-label="Proofs">
      <Ruler width={width} natural={desk.width} scale={scale} margin={margin} onWidth={setWidth} />
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1). */}
      <div className={classes.area} ref={area.ref} role="group" aria-label="Proofs, scrolling" tabIndex={0}>
        {plain ? (
          <PlainText email={desk.id} revision={desk.revision} />
        ) : (
          <div className={classes.proofs} style={{ padding: `0 ${margin}px 40px`, gap }}>
            <ProofFrame {...look} width={width} label="Desktop" />
            <ProofFrame {...look} width={phone} label="Phone" />
          </div>
        )}
      </div>
      <footer className={classes.foot}>
        <Toggle on={dark} set={setDark} name="Dark" />
        <Toggle on={picturesOff} set={setPicturesOff} name="Pictures off" />
        <Toggle on={plain} set={setPlain} name="Plain text" />
        <span className={classes.weight}>
          {Math.ceil(desk.weight.bytes / 1024)} KB of {desk.weight.most / 1024}
        </span>
      </footer>
    </section>
  );
}

function Toggle({ on, set, name }: { on: boolean; set: (on: boolean) => void; name: string }) {
  return (
    <button type="button" className={`plain ${classes.toggle}`} aria-pressed={on} onClick={() => set(!on)}>
      {name}
    </button>
  );
}
