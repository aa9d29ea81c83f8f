import { Button, Menu } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { useState } from "react";
import { keyNames } from "../../shared/keys";
import { lazily } from "../../shared/lazily";
import type { Desk } from "../desk/DeskStore";

const PasteDocumentDialog = lazily(() => import("./PasteDocumentDialog"));
const ReplaceDialog = lazily(() => import("./ReplaceDialog"));
const DeckDialog = lazily(() => import("./DeckDialog"));

type Open = "lay-out" | "replace" | "deck";

/** What is done to the email's words as a whole. */
export function TextToolsMenu({ desk }: { desk: Desk }) {
  const [open, setOpen] = useState<Open>();
  useHotkeys([["mod+H", () => setOpen("replace")]], [], true);
  const close = () => setOpen(undefined);
  return (
    <>
      <Menu position="bottom-end" width={250}>
        <Menu.Target>
          <Button variant="default">Text tools</Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => setOpen("lay-out")}>Paste a document</Menu.Item>
          <Menu.Item onClick={() => setOpen("replace")} rightSection={keyNames("Ctrl", "H")}>
            Find and replace
          </Menu.Item>
          <Menu.Item onClick={() => setOpen("deck")}>Copy deck</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      {open === "lay-out" && <PasteDocumentDialog desk={desk} onClose={close} />}
      {open === "replace" && <ReplaceDialog desk={desk} onClose={close} />}
      {open === "deck" && <DeckDialog desk={desk} onClose={close} />}
    </>
  );
}
