import { Attachments } from "./Attachments";
import type { Desk } from "./DeskStore";
import { FindingLine } from "./fields/FindingLine";
import { LineInput } from "./fields/LineInput";
import { useKeptValue } from "./fields/useKeptValue";
import classes from "./RowSheet.module.css";
import { useDeskContext } from "./useDesk";

const details = [
  { name: "subject", label: "Subject" },
  { name: "preheader", label: "Preheader" },
  { name: "senderName", label: "Sender" },
  { name: "senderAddress", label: "Sender's address" },
] as const;

/** What the inbox shows before the email is opened. */
export function DetailsSheet({ desk }: { desk: Desk }) {
  return (
    <section aria-label="Inbox line">
      <h2 className={classes.title}>Inbox line</h2>
      <p className={classes.instruction}>What a reader sees before opening: who writes, what about, and the first words.</p>
      {desk.kind === "template" && <p className={classes.hint}>What a new email begins with; authors write over it.</p>}
      {details.map((detail) => (
        <Detail key={detail.name} desk={desk} {...detail} />
      ))}
      {desk.kind === "email" && <SendDay desk={desk} />}
      {desk.kind === "email" && <Attachments desk={desk} />}
      {!desk.detailsAllowance.allowed && <p className={classes.sealed}>{desk.detailsAllowance.reason}</p>}
    </section>
  );
}

function Detail({ desk, name, label }: { desk: Desk; name: (typeof details)[number]["name"]; label: string }) {
  const { store, choice } = useDeskContext();
  const [value, setValue] = useKeptValue(desk.details[name] ?? "", `details/${name}`, (next: string) =>
    store.edit({ kind: "set-detail", field: name, value: next }),
  );
  const findings = desk.findings.filter((f) => f.place.row === "details" && f.place.field === name);
  return (
    <div className={classes.block}>
      <LineInput
        id={`details-${name}`}
        label={label}
        value={value}
        onChange={setValue}
        disabled={!desk.detailsAllowance.allowed}
        asked={choice.row === "details" && choice.field === name ? choice.asked : 0}
        broken={findings.some((f) => f.severity === "stop")}
        note={`${value.length || ""}`}
      />
      {findings.map((finding) => (
        <FindingLine key={finding.check} finding={finding} />
      ))}
    </div>
  );
}

/** The day it goes out, from which countdowns count. */
function SendDay({ desk }: { desk: Desk }) {
  const { store } = useDeskContext();
  const [day, setDay] = useKeptValue(desk.details.sendDay ?? "", "details/sendDay", (next: string) =>
    store.edit({ kind: "set-detail", field: "sendDay", value: next }),
  );
  return (
    <label className={classes.pick}>
      Goes out on
      <input type="date" value={day} disabled={!desk.detailsAllowance.allowed} onChange={(e) => setDay(e.currentTarget.value)} />
    </label>
  );
}
