import { Tabs } from "@mantine/core";
import { useEffect, useState } from "react";
import { AboutSheet } from "../library/AboutSheet";
import { MasterSteps } from "../library/MasterSteps";
import { RowSheet } from "./copy/RowSheet";
import { SubjectFields } from "./copy/SubjectFields";
import { WholeEmailCopy } from "./copy/WholeEmailCopy";
import type { Desk, DeskState } from "./DeskStore";
import { FindingsPanel } from "./FindingsPanel";
import { LookPanel } from "./look/LookPanel";
import { ZoneSheet } from "./order/ZoneSheet";
import { RulesPanel } from "./rules/RulesPanel";
import classes from "./SidePanel.module.css";
import { useDeskContext } from "./useDesk";
import { WhySheet } from "./WhySheet";

/** The copy sheet of what is chosen, its look, and the findings of the whole email. */
export function SidePanel({ state }: { state: DeskState }) {
  const { choice, choose } = useDeskContext();
  const [tab, setTab] = useState<string | null>("copy");
  const [shown, setShown] = useState(choice.row);
  const [whole, setWhole] = useState(false);
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
  const zone = desk.order.items.find((item) => item.zone?.id === shown)?.zone;
  const copy =
    whole && desk.kind === "email" ? (
      <WholeEmailCopy state={state} />
    ) : row ? (
      <RowSheet key={row.id} row={row} desk={desk} />
    ) : zone?.terms ? (
      <ZoneSheet key={zone.id} zone={zone} desk={desk} />
    ) : shown === "about" && desk.about ? (
      <AboutSheet desk={desk} about={desk.about} />
    ) : (
      <SubjectFields desk={desk} />
    );
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
          {desk.about && !desk.asAuthor && <Tabs.Tab value="rules">Rules</Tabs.Tab>}
          <Tabs.Tab value="why">Why?</Tabs.Tab>
          <Tabs.Tab value="findings">Findings {desk.findings.length}</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="copy">
          {desk.kind === "email" && (
            <fieldset className={classes.span} aria-label="What the sheet shows">
              <button type="button" className="plain" aria-pressed={!whole} onClick={() => setWhole(false)}>
                Chosen row
              </button>
              <button type="button" className="plain" aria-pressed={whole} onClick={() => setWhole(true)}>
                Whole email
              </button>
            </fieldset>
          )}
          {copy}
          <MasterSteps state={state} />
        </Tabs.Panel>
        <Tabs.Panel value="look">{row ? <LookPanel row={row} /> : <p className="soft">Choose a row to see how it may look.</p>}</Tabs.Panel>
        <Tabs.Panel value="rules">
          {row ? (
            <RulesPanel key={row.id} row={row} />
          ) : (
            <p className="soft">Choose a row to set its rules. What a zone takes stands under Copy.</p>
          )}
        </Tabs.Panel>
        <Tabs.Panel value="why">
          {row || desk.kind === "email" ? (
            <WhySheet desk={desk} row={row?.id} name={row?.name ?? "Subject and sender"} />
          ) : (
            <p className="soft">Choose a row to see who says what in it.</p>
          )}
        </Tabs.Panel>
        <Tabs.Panel value="findings">
          <FindingsPanel state={state} />
        </Tabs.Panel>
      </Tabs>
    </aside>
  );
}
