import { useCallback, useEffect, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { countOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import { EditingContext } from "../../shared/useLiveField";
import { visit } from "../../shared/visited";
import { type NodePlace, NodePlaceContext, useFreshNodes } from "../nodes/nodeOffers";
import { useSession } from "../session/useSession";
import type { DeskKind } from "./askDesk";
import { insertBlock } from "./blocks/insertBlock";
import { ConflictDialog } from "./ConflictDialog";
import { DeskHeader } from "./DeskHeader";
import classes from "./DeskRoom.module.css";
import type { Desk, DeskState } from "./DeskStore";
import { DeskDrag } from "./drag/DeskDrag";
import { RunningOrder } from "./order/RunningOrder";
import { ProofTable } from "./proofs/ProofTable";
import { useReadAs } from "./proofs/useViews";
import { SidePanel } from "./SidePanel";
import { nextToFill } from "./toFill";
import { type BlockPlace, type Choice, DeskContext, useDeskState, useDeskStore } from "./useDesk";
import { useDeskKeys } from "./useDeskKeys";
import { usePresence } from "./usePresence";

const KeysDialog = lazily(() => import("./KeysDialog"));

const parts = { order: "Running order", proofs: "Proofs", copy: "Copy" };

/** A finding elsewhere leads to its place here: "#row/piece/field". */
function pointedAt(): Choice | undefined {
  try {
    const [row, piece, field] = decodeURIComponent(location.hash.slice(1)).split("/");
    return row ? { row, piece, field, asked: piece || field ? 1 : 0 } : undefined;
  } catch {
    // Someone cut the address short: the desk opens where it opens otherwise.
    return undefined;
  }
}

/** Where the work begins: of an email its subject, of a row the row itself, of a template its first row or zone. */
function firstPlace(kind: DeskKind, { desk, rows }: DeskState): string {
  if (kind === "emails") {
    return "details";
  }
  const first = desk?.order.items[0];
  return (kind === "rows" ? [...rows.keys()][0] : (first?.row ?? first?.zone?.id)) ?? "about";
}

/** Remembers what was opened here, to go back to by typing. */
function useVisited(person?: string, desk?: Desk) {
  const { id, name, kind } = desk ?? {};
  useEffect(() => {
    if (person && id && name && (kind === "email" || kind === "template" || kind === "row")) {
      visit(person, { kind, id, name });
    }
  }, [person, id, name, kind]);
}

/** By which the snippets and fields that can be put in are asked for. A saved row may serve several campaign types. */
const nodePlaceOf = (desk?: Desk): Partial<NodePlace> => ({
  campaignType: desk?.email?.template.campaignType ?? (desk?.kind === "template" ? desk.about?.campaignTypes[0] : undefined),
  language: desk?.head.language,
  day: desk?.head.details.sendDay,
});

/** The composing desk: running order, proofs, copy sheet. */
export default function DeskRoom({ kind }: { kind: DeskKind }) {
  const { id = "" } = useParams();
  const session = useSession();
  const store = useDeskStore(kind, id, session.data?.id ?? "");
  const state = useDeskState(store);
  const [asked, setChoice] = useState<Choice>(() => pointedAt() ?? { row: "", asked: 0 });
  const opensAt = firstPlace(kind, state);
  // Until something is chosen, what the work begins with is.
  const choice = useMemo(() => (asked.row ? asked : { ...asked, row: opensAt }), [asked, opensAt]);
  const [adding, addBlock] = useState<BlockPlace>();
  const [dropPlace, setDropPlace] = useState<BlockPlace>();
  const [keysShown, setKeysShown] = useState(false);
  const [part, setPart] = useState<keyof typeof parts>("proofs");
  const choose = useCallback((row: string, piece?: string, field?: string, caret?: number) => {
    if (piece || field) {
      setPart("copy");
    }
    setChoice((former) => ({ row, piece, field, caret, asked: piece || field ? former.asked + 1 : former.asked }));
  }, []);
  const mark = useCallback((row: string, piece: string, field: string) => setChoice({ row, piece, field, asked: 0 }), []);
  useVisited(session.data?.id, state.desk);
  const others = usePresence(id, choice);
  const reading = useReadAs();
  useEffect(() => {
    const follow = () => {
      const there = pointedAt();
      if (there) choose(there.row, there.piece, there.field);
    };
    window.addEventListener("hashchange", follow);
    return () => window.removeEventListener("hashchange", follow);
  }, [choose]);
  const fillNext = useCallback(() => {
    const { desk, rows } = store.snapshot();
    const next = desk && nextToFill(desk, rows, choice)?.place;
    if (next) {
      choose(next.row ?? "details", next.piece ?? undefined, next.field ?? undefined);
    }
  }, [store, choice, choose]);
  const context = useMemo(
    () => ({ store, choice, choose, fillNext, mark, others, adding, addBlock, dropPlace, reading }),
    [store, choice, choose, fillNext, mark, others, adding, dropPlace, reading],
  );
  const { campaignType = "", language = "", day = "" } = nodePlaceOf(state.desk);
  const nodePlace = useMemo(() => ({ campaignType, language, day }), [campaignType, language, day]);
  useFreshNodes();
  useDeskKeys(store, () => setKeysShown(true), fillNext);

  if (state.missing) {
    return (
      <main className={classes.missing}>
        <p role="alert">{state.missing}</p>
        <Link to={`/${kind}`}>Go to the {kind}</Link>
      </main>
    );
  }
  if (!state.desk) {
    return <main aria-busy="true" />;
  }
  store.shown.revision = state.desk.revision;
  return (
    <DeskContext.Provider value={context}>
      <NodePlaceContext value={nodePlace}>
        <EditingContext.Provider value={store}>
          <div className={classes.desk} data-part={part}>
            <DeskHeader state={state} />
            <DeskDrag onPlace={setDropPlace} onInsert={(place, entry) => mark(place.row, insertBlock(store, place, entry), "")}>
              <RunningOrder state={state} />
              <ProofTable state={state} />
              <SidePanel state={state} />
            </DeskDrag>
            {/* On a phone the three lie over one another, one at a time. */}
            <nav className={classes.parts} aria-label="Parts of the desk">
              {Object.entries(parts).map(([value, name]) => (
                <button
                  key={value}
                  type="button"
                  className="plain"
                  aria-pressed={part === value}
                  onClick={() => setPart(value as keyof typeof parts)}
                >
                  {name}
                </button>
              ))}
            </nav>
            <div className={classes.notice} role="status">
              {state.conflicts.length > 0 && state.conflictsLater && (
                <p>
                  {countOf(state.conflicts.length, "place was", "places were")} changed by two at once. Both values wait here.{" "}
                  <button type="button" className="plain underlined" onClick={() => store.settleLater(false)}>
                    Choose
                  </button>
                </p>
              )}
              {state.stuck && (
                <p>
                  {state.stuck.reason}{" "}
                  <button type="button" className="plain underlined" onClick={() => store.skip()}>
                    {state.stuck.move === "undo" ? "Skip it and undo what was before" : "Skip it and redo what comes next"}
                  </button>
                </p>
              )}
              {state.notice && (
                <p>
                  {state.notice}{" "}
                  <button type="button" className="plain underlined" onClick={() => store.dismiss()}>
                    Close
                  </button>
                </p>
              )}
            </div>
          </div>
          {state.conflicts[0] && !state.conflictsLater && (
            <ConflictDialog
              key={state.conflicts[0].target}
              conflict={state.conflicts[0]}
              count={state.conflicts.length}
              onSettle={(conflict, edit) => store.settle(conflict, edit)}
              onLater={() => store.settleLater(true)}
            />
          )}
          {keysShown && <KeysDialog onClose={() => setKeysShown(false)} />}
        </EditingContext.Provider>
      </NodePlaceContext>
    </DeskContext.Provider>
  );
}
