import { Button, Menu } from "@mantine/core";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { HandOff, Job } from "../../api/types";
import { lazily } from "../../shared/lazily";

const ApprovalSheetDialog = lazily<{ print: (id: string) => Promise<Job>; children: string; onClose: () => void }>(
  () => import("../emails/ApprovalSheetDialog"),
);

/** Takes out what was frozen, in every form it was written in. */
export function HandOffExport({ handOff }: { handOff: HandOff }) {
  const { record } = handOff;
  const [profile, setProfile] = useState(record.profile);
  const [printing, setPrinting] = useState(false);
  const at = `/api/hand-offs/${record.id}`;
  const file = (path: string, also = "") => `${at}/${path}?profile=${encodeURIComponent(profile)}${also}`;
  const forms = [
    { href: file("bundle"), name: "HTML, text, pictures and the record (.zip)" },
    { href: file("html"), name: "HTML file" },
    { href: file("html", "&readable=true"), name: "HTML file, indented for reading" },
    { href: file("text"), name: "Plain text file" },
    { href: file("message"), name: "Message (.eml)" },
    { href: file("message", "&unsent=true"), name: "Message to be sent, opens as a draft (.eml)" },
    { href: `${at}/record`, name: "The record (.json)" },
  ];
  return (
    <>
      <Menu position="bottom-end" width={320}>
        <Menu.Target>
          <Button variant="default">Export</Button>
        </Menu.Target>
        <Menu.Dropdown>
          {forms.map((form) => (
            <Menu.Item key={form.name} component="a" href={form.href}>
              {form.name}
            </Menu.Item>
          ))}
          <Menu.Item onClick={() => setPrinting(true)}>Approval sheet (PDF)</Menu.Item>
          {record.profiles.length > 1 && (
            <>
              <Menu.Divider />
              <Menu.Label>Fields and conditions written for</Menu.Label>
              <Menu.RadioGroup value={profile} onChange={setProfile}>
                {record.profiles.map(({ key, name }) => (
                  <Menu.RadioItem key={key} value={key} closeMenuOnClick={false}>
                    {name}
                  </Menu.RadioItem>
                ))}
              </Menu.RadioGroup>
            </>
          )}
        </Menu.Dropdown>
      </Menu>
      {printing && (
        <ApprovalSheetDialog
          print={(id) => ask(api.POST("/api/hand-offs/{id}/sign-off", { params: { path: { id: record.id } }, body: { id } }))}
          onClose={() => setPrinting(false)}
        >
          Subject and sender, the releases it was made from, the findings, and the email on a desktop and a phone, as it was frozen.
        </ApprovalSheetDialog>
      )}
    </>
  );
}
