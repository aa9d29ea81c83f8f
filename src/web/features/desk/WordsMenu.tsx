import { Button, Menu } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { Suspense, useState } from "react";
import { lazily } from "../../shared/lazily";
import type { Desk } from "./DeskStore";

const LayOutDialog = lazily(() => import("./LayOutDialog"));
const ReplaceDialog = lazily(() => import("./ReplaceDialog"));
const DeckDialog = lazily(() => import("./DeckDialog"));
const HistoryDialog = lazily(() => import("./HistoryDialog"));

type Open = "lay-out" | "replace" | "deck" | "history";

/** What is done to the email's words as a whole, and what was done to them. */
export function WordsMenu({ desk }: { desk: Desk }) {
  const [open, setOpen] = useState<Open>();
  useHotkeys([["mod+H", () => setOpen("replace")]], []);
  const close = () => setOpen(undefined);
  return (
    <>
      <Menu position="bottom-end" width={250}>
        <Menu.Target>
          <Button variant="default">All words</Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => setOpen("lay-out")}>Lay out a copy document</Menu.Item>
          <Menu.Item onClick={() => setOpen("replace")} rightSection="Ctrl H">
            Find and replace
          </Menu.Item>
          <Menu.Item onClick={() => setOpen("deck")}>Copy deck, out and in</Menu.Item>
          <Menu.Divider />
          <Menu.Item onClick={() => setOpen("history")}>Everything that was done</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <Suspense fallback={null}>
        {open === "lay-out" && <LayOutDialog desk={desk} onClose={close} />}
        {open === "replace" && <ReplaceDialog desk={desk} onClose={close} />}
        {open === "deck" && <DeckDialog desk={desk} onClose={close} />}
        {open === "history" && <HistoryDialog desk={desk} onClose={close} />}
      </Suspense>
    </>
  );
}
