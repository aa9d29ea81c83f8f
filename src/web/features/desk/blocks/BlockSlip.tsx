import { useDraggable } from "@dnd-kit/core";
import { CloseButton, Combobox, TextInput, useCombobox } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { queries } from "../../../api/queries";
import type { BlockKind } from "../../../api/types";
import { keyName } from "../../../shared/keys";
import { Pending } from "../../../shared/Pending";
import type { DeskState } from "../DeskStore";
import { type Dragged, whyTooWide } from "../drag/dragged";
import { type BlockPlace, useDeskContext } from "../useDesk";
import classes from "./BlockSlip.module.css";
import { insertBlock, usedKinds } from "./insertBlock";

const groups = {
  words: "Words",
  pictures: "Pictures",
  links: "Links and buttons",
  articles: "Articles and offers",
  dates: "Dates and places",
  space: "Space",
  service: "Service",
} as const;

/**
 * The kinds of block as words in their groups, under the mark in the proofs: typed, clicked or dragged to where they go.
 * It stays open for the next.
 */
export default function BlockSlip({ state, place }: { state: DeskState; place: BlockPlace }) {
  const { store, addBlock, mark } = useDeskContext();
  const [words, setWords] = useState("");
  const [used] = useState(usedKinds);
  const kinds = useQuery(queries.blockKinds);
  const combobox = useCombobox({ opened: true });
  const { selectFirstOption } = combobox;
  const row = state.rows.get(place.row);
  const column = row?.columns.find((c) => c.id === place.column);
  const wanted = words.trim().toLowerCase();
  const found = (kinds.data ?? []).filter((k) => `${k.label} ${k.about}`.toLowerCase().includes(wanted));
  // What is called so stands before what only speaks of it.
  const named = wanted ? found.filter((k) => k.label.toLowerCase().includes(wanted)) : [];
  const last = wanted === "" ? used.flatMap((name) => found.find((k) => k.name === name) ?? []) : named;
  const lists = [
    { label: wanted ? "By that name" : "Used last", kinds: last },
    ...Object.entries(groups).map(([group, label]) => ({
      label: wanted && last.length > 0 ? `${label}, which speak of it` : label,
      kinds: found.filter((k) => k.group === group && (!wanted || !last.includes(k))),
    })),
  ].filter((list) => list.kinds.length > 0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is found is what Enter takes.
  useEffect(() => {
    selectFirstOption();
  }, [wanted, kinds.data, selectFirstOption]);
  // The one that had the focus gets it back.
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    return () => before?.focus();
  }, []);
  if (!row || !column) {
    return null;
  }

  const put = (name: string) => {
    const kind = kinds.data?.find((k) => k.name === name);
    const narrow = kind && whyTooWide(kind.leastWidth, row, column);
    if (!kind || narrow) {
      store.say(narrow ?? "");
      return;
    }
    const id = insertBlock(store, place, kind);
    mark(row.id, id, "");
    addBlock({ ...place, index: place.index < 0 ? -1 : place.index + 1 });
    setWords("");
  };
  return (
    <section className={classes.slip} role="dialog" aria-label={`Add a block to ${row.name}`}>
      <Combobox store={combobox} onOptionSubmit={put}>
        <header className={classes.head}>
          <Combobox.EventsTarget>
            <TextInput
              autoFocus
              aria-label="Find a block"
              placeholder="button, date, price …"
              value={words}
              onChange={(e) => setWords(e.currentTarget.value)}
              onKeyDown={(e) => {
                if (e.key === "Enter" && combobox.getSelectedOptionIndex() < 0 && lists[0]?.kinds[0]) {
                  put(lists[0].kinds[0].name);
                } else if (e.key === "Escape") {
                  e.stopPropagation();
                  addBlock();
                } else if (e.altKey && (e.key === "ArrowDown" || e.key === "ArrowUp")) {
                  e.preventDefault();
                  e.stopPropagation();
                  const at = place.index < 0 ? column.blocks.length : place.index;
                  const next = at + (e.key === "ArrowDown" ? 1 : -1);
                  addBlock({ ...place, index: Math.max(0, Math.min(column.blocks.length, next)) });
                }
              }}
            />
          </Combobox.EventsTarget>
          <span className={classes.how}>
            {keyName("Enter")} puts it at the mark, {keyName("Alt")} ↑ ↓ moves the mark; or drag a word to any place
          </span>
          <CloseButton aria-label="Close" onClick={() => addBlock()} />
        </header>
        <Pending query={kinds} what="The kinds of block" />
        <Combobox.Options tabIndex={0} className={classes.lists} aria-label="Kinds of block">
          {lists.map((list) => (
            <Combobox.Group key={list.label} label={list.label} className={classes.list}>
              {list.kinds.map((kind) => (
                <Kind key={kind.name} kind={kind} narrow={whyTooWide(kind.leastWidth, row, column)} listed={list.label} />
              ))}
            </Combobox.Group>
          ))}
        </Combobox.Options>
        {kinds.data && found.length === 0 && <p className={classes.none}>No block is called that. Clear the words to see all.</p>}
      </Combobox>
      <p className={classes.foot}>
        {row.columns.length > 1 ? `Column ${row.columns.indexOf(column) + 1} of ${row.name}` : row.name}, {column.width} px wide
      </p>
    </section>
  );
}

function Kind({ kind, narrow, listed }: { kind: BlockKind; narrow?: string; listed: string }) {
  const dragged: Dragged = { kind: "new-block", entry: kind, name: kind.label };
  const { setNodeRef, listeners } = useDraggable({ id: `kind-${listed}-${kind.name}`, data: dragged });
  return (
    <Combobox.Option value={kind.name} className={classes.kind} data-narrow={narrow !== undefined} title={narrow}>
      {/* Inside: the option itself keeps a press from being anything but a choice. */}
      <span className={classes.carried} ref={setNodeRef} {...listeners}>
        <b>{kind.label}</b>
        <span className={classes.about}>{narrow ?? kind.about}</span>
      </span>
    </Combobox.Option>
  );
}
