import { Button, Menu } from "@mantine/core";
import { type MouseEvent, Suspense, useState } from "react";
import { Link } from "react-router";
import { askText } from "../../api/client";
import { lazily } from "../../shared/lazily";
import { useIs } from "../session/useSession";
import type { Desk } from "./DeskStore";
import { useDeskContext } from "./useDesk";

const NewTemplateDialog = lazily(() => import("../templates/NewTemplateDialog"));
const SignOffDialog = lazily(() => import("./SignOffDialog"));

/** Takes the finished email away: copied, as a file, as a message, or on paper. */
export function HandOut({ desk }: { desk: Desk }) {
  const [open, setOpen] = useState<"template" | "sign-off">();
  const makes = useIs("lead", "designer");
  const { store } = useDeskContext();
  const [copied, setCopied] = useState(false);
  const stops = desk.findings.filter((f) => f.severity === "stop").length;
  const at = `/api/emails/${desk.id}`;

  // What goes out is what stands here: what was typed last has to be stored first.
  const whenStored = async (then: () => void) => {
    if (await store.stored()) {
      then();
    } else {
      store.say("What you typed last is not stored yet, as the server is out of reach. Export the email once it says that it is.");
    }
  };
  const copy = async (kind: "html" | "text") => {
    try {
      const copied = await askText(`${at}/${kind}`);
      await navigator.clipboard.writeText(copied).catch(() => {
        throw new Error("The browser does not let this page copy. Download the file instead.");
      });
      setCopied(true);
      setTimeout(() => setCopied(false), 2500);
    } catch (problem) {
      store.say((problem as Error).message);
    }
  };
  const close = () => setOpen(undefined);

  return (
    <>
      <Menu position="bottom-end" width={270}>
        <Menu.Target>
          <Button>{copied ? "Copied" : "Take it away"}</Button>
        </Menu.Target>
        <Menu.Dropdown>
          {stops > 0 && <Menu.Label>{stops === 1 ? "One finding" : `${stops} findings`} would stop this email.</Menu.Label>}
          <Menu.Item onClick={() => whenStored(() => copy("html"))}>Copy the HTML</Menu.Item>
          <File whenStored={whenStored} href={`${at}/html?download=true`}>
            Download the HTML
          </File>
          <File whenStored={whenStored} href={`${at}/html?download=true&readable=true`}>
            Download the HTML, laid out to be read
          </File>
          <Menu.Item onClick={() => whenStored(() => copy("text"))}>Copy the plain text</Menu.Item>
          <File whenStored={whenStored} href={`${at}/text?download=true`}>
            Download the plain text
          </File>
          <Menu.Divider />
          <File whenStored={whenStored} href={`${at}/message`}>
            Message, .eml
          </File>
          <File whenStored={whenStored} href={`${at}/message?embed=true`}>
            Message with the pictures inside, .eml
          </File>
          <File whenStored={whenStored} href={`${at}/bundle`}>
            HTML, text and pictures, .zip
          </File>
          <Menu.Item onClick={() => whenStored(() => setOpen("sign-off"))}>Sheet to sign off, .pdf</Menu.Item>
          <Menu.Divider />
          <Menu.Item component={Link} to={`/emails/${desk.id}/findings`}>
            Everything the checks say
          </Menu.Item>
          {makes && <Menu.Item onClick={() => whenStored(() => setOpen("template"))}>Make this a template</Menu.Item>}
        </Menu.Dropdown>
      </Menu>
      <Suspense fallback={null}>
        {open === "template" && (
          <NewTemplateDialog email={{ id: desk.id, name: desk.name, campaignType: desk.template?.campaignType ?? "" }} onClose={close} />
        )}
        {open === "sign-off" && <SignOffDialog desk={desk} onClose={close} />}
      </Suspense>
    </>
  );
}

interface FileProps {
  href: string;
  whenStored: (then: () => void) => void;
  children: string;
}

/** A link to a file, so that it can be opened elsewhere and copied; followed once all is stored. */
function File({ href, whenStored, children }: FileProps) {
  return (
    <Menu.Item
      component="a"
      href={href}
      onClick={(event: MouseEvent) => {
        event.preventDefault();
        whenStored(() => location.assign(href));
      }}
    >
      {children}
    </Menu.Item>
  );
}
