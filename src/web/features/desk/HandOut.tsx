import { Button, Menu } from "@mantine/core";
import { Suspense, useState } from "react";
import { Link } from "react-router";
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

  const copy = async (kind: "html" | "text") => {
    const answer = await fetch(`${at}/${kind}`);
    try {
      await navigator.clipboard.writeText(await answer.text());
      setCopied(true);
      setTimeout(() => setCopied(false), 2500);
    } catch {
      store.say("The browser does not let this page copy. Download the file instead.");
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
          <Menu.Item onClick={() => copy("html")}>Copy the HTML</Menu.Item>
          <File href={`${at}/html?download=true`}>Download the HTML</File>
          <File href={`${at}/html?download=true&readable=true`}>Download the HTML, laid out to be read</File>
          <Menu.Item onClick={() => copy("text")}>Copy the plain text</Menu.Item>
          <File href={`${at}/text?download=true`}>Download the plain text</File>
          <Menu.Divider />
          <File href={`${at}/message`}>Message, .eml</File>
          <File href={`${at}/message?embed=true`}>Message with the pictures inside, .eml</File>
          <File href={`${at}/bundle`}>HTML, text and pictures, .zip</File>
          <Menu.Item onClick={() => setOpen("sign-off")}>Sheet to sign off, .pdf</Menu.Item>
          <Menu.Divider />
          <Menu.Item component={Link} to={`/emails/${desk.id}/findings`}>
            Everything the checks say
          </Menu.Item>
          {makes && <Menu.Item onClick={() => setOpen("template")}>Make this a template</Menu.Item>}
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

function File({ href, children }: { href: string; children: string }) {
  return (
    <Menu.Item component="a" href={href}>
      {children}
    </Menu.Item>
  );
}
