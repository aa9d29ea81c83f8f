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
      {details.map((detail) => (
        <Detail key={detail.name} desk={desk} {...detail} />
      ))}
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
