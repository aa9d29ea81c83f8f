import { NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import type { MergeField, Recipient } from "../../api/types";
import { DayField } from "../../shared/DayField";
import { useTypedField } from "../../shared/useLiveField";
import { FindingLine } from "../desk/copy/fields/FindingLine";
import { NotStored } from "../desk/copy/fields/NotStored";
import classes from "../desk/copy/RowSheet.module.css";
import type { Desk } from "../desk/DeskStore";

const nobody: Recipient = { name: "", address: "", values: {} };

/** The one person whom the email is written to, and what it says of them. */
export function RecipientFields({ desk }: { desk: Desk }) {
  const readers = useQuery(queries.sampleReaders);
  const plan = useQuery(queries.audiences);
  const [to, setTo, refused] = useTypedField<Recipient>(desk.email?.template.to ?? nobody, "details/recipient", (next) => ({
    kind: "set-recipient",
    to: next.name.trim() ? next : null,
  }));
  const disabled = !desk.head.allowance.allowed;
  const findings = desk.findings.filter((f) => f.place.row === "details" && f.place.field === "recipient");
  const asked = (plan.data?.fields ?? []).map((f) => f.field).filter((f) => desk.email?.template.asked.includes(f.key));
  const say = (key: string, value: string) =>
    setTo((now) => {
      const { [key]: _, ...rest } = now.values;
      return { ...now, values: value ? { ...rest, [key]: value } : rest };
    });
  return (
    <fieldset className={classes.block} style={{ border: 0, padding: 0, display: "grid", gap: 10 }}>
      <legend style={{ fontWeight: 600, padding: 0 }}>To one person</legend>
      {(readers.data?.length ?? 0) > 0 && (
        <NativeSelect
          label="Fill in from a sample reader"
          value=""
          disabled={disabled}
          onChange={(e) => {
            const one = readers.data?.find((r) => r.id === e.currentTarget.value);
            if (one) {
              setTo((now) => ({ ...now, name: one.name, values: one.values }));
            }
          }}
          data={[{ value: "", label: "Choose" }, ...(readers.data ?? []).map((r) => ({ value: r.id, label: r.name }))]}
        />
      )}
      <TextInput
        id="details-recipient"
        label="Name"
        value={to.name}
        disabled={disabled}
        maxLength={120}
        onChange={(e) => {
          const name = e.currentTarget.value;
          setTo((now) => ({ ...now, name }));
        }}
      />
      <TextInput
        label="Address"
        description="Without one it is given as a draft file, to be sent by hand."
        type="email"
        value={to.address}
        disabled={disabled || !to.name.trim()}
        onChange={(e) => {
          const address = e.currentTarget.value.trim();
          setTo((now) => ({ ...now, address }));
        }}
      />
      {asked.map((field) => (
        <Value
          key={field.key}
          field={field}
          value={to.values[field.key] ?? ""}
          disabled={disabled || !to.name.trim()}
          onChange={(value) => say(field.key, value)}
        />
      ))}
      <NotStored reason={refused} />
      {findings.map((finding) => (
        <FindingLine key={finding.check} finding={finding} />
      ))}
    </fieldset>
  );
}

interface ValueProps {
  field: MergeField;
  value: string;
  disabled: boolean;
  onChange: (value: string) => void;
}

/** What is known of the person: as the field's type asks. */
function Value({ field, value, disabled, onChange }: ValueProps) {
  const hint = field.fallback ? `Not known: “${field.fallback}”` : undefined;
  if (field.type === "date") {
    return <DayField label={field.label} value={value} disabled={disabled} onChange={onChange} />;
  }
  const choices = field.type === "yes-no" ? ["yes", "no"] : field.type === "choice" ? (field.choices ?? []) : undefined;
  return choices ? (
    <NativeSelect
      label={field.label}
      description={hint}
      value={value}
      disabled={disabled}
      onChange={(e) => onChange(e.currentTarget.value)}
      data={[{ value: "", label: "Not known" }, ...choices]}
    />
  ) : (
    <TextInput label={field.label} description={hint} value={value} disabled={disabled} onChange={(e) => onChange(e.currentTarget.value)} />
  );
}
