import { Button, Menu } from "@mantine/core";
import { useState } from "react";
import type { Desk } from "./DeskStore";
import { useDeskContext } from "./useDesk";

/** Takes the finished email away: copied or as a file. */
export function HandOut({ desk }: { desk: Desk }) {
  const { store } = useDeskContext();
  const [copied, setCopied] = useState(false);
  const stops = desk.findings.filter((f) => f.severity === "stop").length;

  const copy = async (kind: "html" | "text") => {
    const answer = await fetch(`/api/emails/${desk.id}/${kind}`);
    try {
      await navigator.clipboard.writeText(await answer.text());
      setCopied(true);
      setTimeout(() => setCopied(false), 2500);
    } catch {
      store.say("The browser does not let this page copy. Download the file instead.");
    }
  };

  return (
    <Menu position="bottom-end" width={230}>
      <Menu.Target>
        <Button>{copied ? "Copied" : "Take the HTML"}</Button>
      </Menu.Target>
      <Menu.Dropdown>
        {stops > 0 && <Menu.Label>{stops === 1 ? "One finding" : `${stops} findings`} would stop this email.</Menu.Label>}
        <Menu.Item onClick={() => copy("html")}>Copy the HTML</Menu.Item>
        <Menu.Item component="a" href={`/api/emails/${desk.id}/html?download=true`}>
          Download the HTML
        </Menu.Item>
        <Menu.Divider />
        <Menu.Item onClick={() => copy("text")}>Copy the plain text</Menu.Item>
        <Menu.Item component="a" href={`/api/emails/${desk.id}/text?download=true`}>
          Download the plain text
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
