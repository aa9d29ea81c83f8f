import { Select } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { queries } from "../../../api/queries";
import { DayField } from "../../../shared/DayField";
import { hasNodes } from "../../../shared/nodes";
import { useCampaignTypes } from "../../../shared/useCampaignTypes";
import { useLiveField, useTypedField } from "../../../shared/useLiveField";
import { RecipientFields } from "../../emails/RecipientFields";
import { UnplacedList } from "../../emails/UnplacedList";
import type { Desk } from "../DeskStore";
import { isBlocker } from "../toFill";
import { useDeskContext } from "../useDesk";
import { Attachments } from "./Attachments";
import { FindingLine } from "./fields/FindingLine";
import { LineInput } from "./fields/LineInput";
import { NotStored } from "./fields/NotStored";
import { notesOf } from "./fields/notesOf";
import classes from "./RowSheet.module.css";

const details = [
  { name: "subject", label: "Subject" },
  { name: "preheader", label: "Preheader" },
  { name: "senderName", label: "Sender" },
  { name: "senderAddress", label: "Sender's address" },
] as const;

/** What the inbox shows before the email is opened. */
export function SubjectFields({ desk }: { desk: Desk }) {
  return (
    <section aria-label="Subject and sender">
      <h2 className={classes.title}>Subject and sender</h2>
      <p className={classes.instruction}>What a reader sees before opening: who writes, what about, and the first words.</p>
      {desk.kind === "template" && <p className={classes.hint}>What a new email begins with; authors write over it.</p>}
      {desk.email?.template.forOnePerson && <RecipientFields desk={desk} />}
      {details.map((detail) => (
        <Detail key={detail.name} desk={desk} {...detail} />
      ))}
      {desk.kind === "email" && <SendDay desk={desk} />}
      {desk.kind === "email" && <Language desk={desk} />}
      {desk.kind === "email" && <Detail desk={desk} name="campaignName" label="Campaign name in links" />}
      {desk.kind === "email" && <LinkTagging desk={desk} />}
      {desk.kind === "email" && <Attachments desk={desk} />}
      {desk.email && desk.email.unplaced.length > 0 && <UnplacedList unplaced={desk.email.unplaced} />}
      {!desk.head.allowance.allowed && <p className={classes.sealed}>{desk.head.allowance.reason}</p>}
    </section>
  );
}

function Detail({ desk, name, label }: { desk: Desk; name: (typeof details)[number]["name"] | "campaignName"; label: string }) {
  const { choice } = useDeskContext();
  const [value, setValue, refused] = useTypedField(desk.head.details[name] ?? "", `details/${name}`, (next) => ({
    kind: "set-detail",
    field: name,
    value: next,
  }));
  const findings = desk.findings.filter((f) => f.place.row === "details" && f.place.field === name);
  return (
    <div className={classes.block}>
      <LineInput
        id={`details-${name}`}
        label={label}
        value={value}
        onChange={setValue}
        disabled={!desk.head.allowance.allowed}
        asked={choice.row === "details" && choice.field === name ? choice.asked : 0}
        broken={findings.some(isBlocker)}
        note={hasNodes(value) ? "" : `${value.length || ""}`}
        lang={desk.head.language}
        nodes={name === "subject" || name === "preheader"}
      />
      <div id={notesOf(`details-${name}`)}>
        <NotStored reason={refused} />
        {findings.map((finding) => (
          <FindingLine key={finding.check} finding={finding} />
        ))}
      </div>
    </div>
  );
}

/** The day it goes out, from which countdowns count. */
function SendDay({ desk }: { desk: Desk }) {
  const [day, setDay] = useLiveField(desk.head.details.sendDay ?? "", "details/sendDay", (next) => ({
    kind: "set-detail",
    field: "sendDay",
    value: next,
  }));
  return <DayField label="Goes out on" className={classes.pick} value={day} disabled={!desk.head.allowance.allowed} onChange={setDay} />;
}

const languageName = new Intl.DisplayNames("en-GB", { type: "language", fallback: "code" });

/** The language readers' programs and the browser's spelling go by, and which way the email runs. */
function Language({ desk }: { desk: Desk }) {
  const [language, setLanguage] = useLiveField(desk.head.language, "details/language", (tag) => ({ kind: "set-language", language: tag }));
  const all = useQuery(queries.languages);
  const data = useMemo(
    () =>
      (all.data ?? [])
        .map(({ tag, direction }) => ({ value: tag, label: `${languageName.of(tag)}${direction === "rtl" ? ", from right to left" : ""}` }))
        .sort((a, b) => a.label.localeCompare(b.label)),
    [all.data],
  );
  const known = data.some(({ value }) => value === language);
  return (
    <Select
      label="Language"
      className={classes.pick}
      searchable
      value={language}
      disabled={!desk.head.allowance.allowed}
      data={known ? data : [{ value: language, label: languageName.of(language) ?? language }, ...data]}
      nothingFoundMessage="No such language"
      onChange={(tag) => tag && setLanguage(tag)}
    />
  );
}

/** What the addresses of links get when the email goes out; the campaign type says it, nobody writes it on each link. */
function LinkTagging({ desk }: { desk: Desk }) {
  const types = useCampaignTypes();
  const key = types.current(desk.email?.template.campaignType ?? "");
  const type = types.all.find((t) => t.key === key);
  if (!type) {
    return null;
  }
  return (
    <p className={classes.hint}>
      {type.linkTags.tags.length === 0
        ? `Links of a ${type.name} go out as they are written.`
        : `Links go out with ${type.linkTags.tags.map((t) => `${t.name}=${t.value}`).join(", ")}; the campaign type says so.`}
    </p>
  );
}
