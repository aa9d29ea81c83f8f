import { Button, Menu } from "@mantine/core";
import { useLocalStorage } from "@mantine/hooks";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type MouseEvent, useState } from "react";
import { Link } from "react-router";
import { api, ask, askText } from "../../api/client";
import { countOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import type { Desk } from "../desk/DeskStore";
import { countToFill, isBlocker } from "../desk/toFill";
import { useDeskContext } from "../desk/useDesk";
import { useIs } from "../session/useSession";
import classes from "./ExportMenu.module.css";

const NewTemplateDialog = lazily(() => import("../templates/NewTemplateDialog"));
const ApprovalSheetDialog = lazily(() => import("./ApprovalSheetDialog"));
const TestSendDialog = lazily(() => import("../test-sends/TestSendDialog"));

/** Exports the email: copied, as a file, as a message, or on paper. */
export function ExportMenu({ desk }: { desk: Desk }) {
  const [open, setOpen] = useState<"template" | "sign-off" | "test" | "test-to-me">();
  const makes = useIs("lead", "designer");
  const { store } = useDeskContext();
  const [copied, setCopied] = useState(false);
  const unfilled = countToFill(desk);
  const blockers = desk.findings.filter(isBlocker).length;
  const inTheWay = [...(unfilled > 0 ? [`${unfilled} to fill`] : []), ...(blockers > 0 ? [countOf(blockers, "blocker")] : [])];
  const at = `/api/emails/${desk.id}`;
  const [profile, setProfile] = useLocalStorage({ key: "export-profile", defaultValue: "mustache", getInitialValueInEffect: false });
  const [opened, setOpened] = useState(false);
  const platform = useQuery({
    queryKey: ["platform", desk.id, profile, opened && [desk.revision, desk.proof.styleVersion]],
    enabled: opened,
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(api.GET("/api/emails/{id}/fields", { params: { path: { id: desk.id }, query: { profile } } })).catch((problem) => {
        // The one that was chosen last is gone: the usual one is there.
        setProfile("mustache");
        throw problem;
      }),
  });
  const faults = platform.data?.faults ?? [];
  const mustUpdate = desk.email?.template.updateRequired === true;
  const unsayable = faults.length > 0 || mustUpdate;
  const named = platform.data?.profiles.find((p) => p.key === profile)?.name ?? profile;
  const asked = (href: string, also = "") => `${href}${href.includes("?") ? "&" : "?"}profile=${encodeURIComponent(profile)}${also}`;

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
      const copied = await askText(asked(`${at}/${kind}`));
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
      <Menu position="bottom-end" width={300} opened={opened} onChange={setOpened}>
        <Menu.Target>
          <Button variant="default">{copied ? "Copied" : "Export"}</Button>
        </Menu.Target>
        <Menu.Dropdown className={classes.menu}>
          {desk.state === "handed-off" && (
            <>
              <Menu.Item component={Link} to={`/emails/${desk.id}/hand-offs`}>
                What was handed off
                <For>frozen, in every form</For>
              </Menu.Item>
              <Menu.Divider />
            </>
          )}
          <Menu.Item onClick={() => whenStored(() => setOpen("test-to-me"))}>
            Send me a test
            <For>as it is now, to your own inbox</For>
          </Menu.Item>
          <Menu.Item onClick={() => whenStored(() => setOpen("test"))}>Send a test…</Menu.Item>
          <Menu.Divider />
          <Menu.Label>Until the hand-off each file says that it is a draft</Menu.Label>
          {inTheWay.length > 0 && <Menu.Label>Not ready to go out: {inTheWay.join(", ")}</Menu.Label>}
          {mustUpdate && (
            <Menu.Label className={classes.fault}>■ A newer release must be taken first: nothing leaves without it.</Menu.Label>
          )}
          {faults.length > 0 && !mustUpdate && (
            <>
              <Menu.Label className={classes.fault}>
                ■ {named} cannot say all of it. {faults[0]?.where}: {faults[0]?.what}
                {faults.length > 1 && ` And ${faults.length - 1} more.`}
              </Menu.Label>
              {platform.data?.combinations ? (
                <File
                  whenStored={whenStored}
                  href={asked(`${at}/bundle`, "&combinations=true")}
                  use={`${countOf(platform.data.combinations, "email")}, named by who gets which`}
                >
                  One email for each audience (.zip)
                </File>
              ) : (
                <Menu.Label>There are too many combinations to write an email for each.</Menu.Label>
              )}
              <Menu.Divider />
            </>
          )}
          <Menu.Item disabled={unsayable} onClick={() => whenStored(() => copy("html"))}>
            Copy the HTML
            <For>to paste it where it is sent from</For>
          </Menu.Item>
          <File whenStored={whenStored} disabled={unsayable} href={asked(`${at}/bundle`)} use="everything in one file">
            HTML, text and pictures (.zip)
          </File>
          <File whenStored={whenStored} disabled={mustUpdate} href={`${at}/message`} use="opens in a mail program">
            Message (.eml)
          </File>
          <File whenStored={whenStored} disabled={mustUpdate} href={`${at}/message?unsent=true`} use="opens as a draft there">
            Message to be sent (.eml)
          </File>
          <Menu.Item disabled={mustUpdate} onClick={() => whenStored(() => setOpen("sign-off"))}>
            Approval sheet (PDF)
            <For>to be read and signed on paper</For>
          </Menu.Item>
          <Menu.Divider />
          <Menu.Label>More formats</Menu.Label>
          <File whenStored={whenStored} disabled={unsayable} href={asked(`${at}/html?download=true`)}>
            HTML file
          </File>
          <File whenStored={whenStored} disabled={unsayable} href={asked(`${at}/html?download=true&readable=true`)}>
            HTML file, indented for reading
          </File>
          <Menu.Item disabled={unsayable} onClick={() => whenStored(() => copy("text"))}>
            Copy the plain text
          </Menu.Item>
          <File whenStored={whenStored} disabled={unsayable} href={asked(`${at}/text?download=true`)}>
            Plain text file
          </File>
          <File whenStored={whenStored} disabled={mustUpdate} href={`${at}/message?embed=true`}>
            Message with the pictures inside (.eml)
          </File>
          {(platform.data?.profiles.length ?? 0) > 1 && (
            <>
              <Menu.Divider />
              <Menu.Label>Fields and conditions written for</Menu.Label>
              <Menu.RadioGroup value={profile} onChange={setProfile}>
                {platform.data?.profiles.map(({ key, name }) => (
                  <Menu.RadioItem key={key} value={key} closeMenuOnClick={false}>
                    {name}
                  </Menu.RadioItem>
                ))}
              </Menu.RadioGroup>
            </>
          )}
          <Menu.Divider />
          <Menu.Item component={Link} to={`/emails/${desk.id}/findings`}>
            All findings
          </Menu.Item>
          {makes && <Menu.Item onClick={() => whenStored(() => setOpen("template"))}>Make this a template</Menu.Item>}
        </Menu.Dropdown>
      </Menu>
      {open === "template" && (
        <NewTemplateDialog
          email={{ id: desk.id, name: desk.name, campaignType: desk.email?.template.campaignType ?? "" }}
          onClose={close}
        />
      )}
      {(open === "test" || open === "test-to-me") && <TestSendDialog email={desk.id} toMe={open === "test-to-me"} onClose={close} />}
      {open === "sign-off" && (
        <ApprovalSheetDialog
          print={(id) => ask(api.POST("/api/emails/{id}/sign-off", { params: { path: { id: desk.id } }, body: { id } }))}
          onClose={close}
        >
          Subject and sender, the releases it is made from, the findings, and the email on a desktop and a phone, as it is at this moment.
        </ApprovalSheetDialog>
      )}
    </>
  );
}

interface FileProps {
  href: string;
  whenStored: (then: () => void) => void;
  /** What it is good for. */
  use?: string;
  disabled?: boolean;
  children: string;
}

const For = ({ children }: { children: string }) => <span className={classes.for}>{children}</span>;

/** A link to a file, so that it can be opened elsewhere and copied; followed once all is stored. */
function File({ href, whenStored, use, disabled, children }: FileProps) {
  const words = (
    <>
      {children}
      {use && <For>{use}</For>}
    </>
  );
  return disabled ? (
    <Menu.Item disabled>{words}</Menu.Item>
  ) : (
    <Menu.Item
      component="a"
      href={href}
      onClick={(event: MouseEvent) => {
        event.preventDefault();
        whenStored(() => location.assign(href));
      }}
    >
      {words}
    </Menu.Item>
  );
}
