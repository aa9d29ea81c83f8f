import { Tabs } from "@mantine/core";
import { useEffect, useState } from "react";
import type { Desk, DeskState } from "./DeskStore";
import { DetailsSheet } from "./DetailsSheet";
import { FindingsPanel } from "./FindingsPanel";
import { LookPanel } from "./LookPanel";
import { RowSheet } from "./RowSheet";
import classes from "./Sheet.module.css";
import { useDeskContext } from "./useDesk";

/** The copy sheet of what is chosen, its look, and the findings of the whole email. */
export function Sheet({ state }: { state: DeskState }) {
  const { choice, choose } = useDeskContext();
  const [tab, setTab] = useState<string | null>("copy");
  const [shown, setShown] = useState(choice.row);
  const desk = state.desk as Desk;

  // "findings" is asked for from the top line; the row that was chosen stays.
  useEffect(() => {
    if (choice.row === "findings") {
      setTab("findings");
      choose(shown);
    } else {
      setShown(choice.row);
    }
  }, [choice.row, shown, choose]);
  useEffect(() => {
    if (choice.asked > 0) {
      setTab("copy");
    }
  }, [choice.asked]);

  const row = state.rows.get(shown);
  return (
    <aside className={classes.sheet} aria-label="Copy sheet">
      <Tabs
        value={tab}
        onChange={setTab}
        keepMounted={false}
        classNames={{ root: classes.tabs, list: classes.list, tab: classes.tab, panel: classes.panel }}
      >
        <Tabs.List>
          <Tabs.Tab value="copy">Copy</Tabs.Tab>
          <Tabs.Tab value="look">Look</Tabs.Tab>
          <Tabs.Tab value="findings">Findings {desk.findings.length}</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="copy">{row ? <RowSheet key={row.id} row={row} desk={desk} /> : <DetailsSheet desk={desk} />}</Tabs.Panel>
        <Tabs.Panel value="look">{row ? <LookPanel row={row} /> : <p className="soft">Choose a row to see how it may look.</p>}</Tabs.Panel>
        <Tabs.Panel value="findings">
          <FindingsPanel state={state} />
        </Tabs.Panel>
      </Tabs>
    </aside>
  );
}
