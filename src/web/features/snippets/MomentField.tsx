import { TextInput } from "@mantine/core";
import type { Edit } from "../../api/types";
import { DayField } from "../../shared/DayField";
import { useTypedField } from "../../shared/useLiveField";
import classes from "./SnippetsRoom.module.css";

interface Props {
  label: string;
  /** Local day and time: "2026-11-30T00:00". */
  value: string;
  /** The place it sets. */
  target: string;
  disabled: boolean;
  edit: (at: string) => Edit;
}

/** The moment at which something begins or ends. */
export function MomentField({ label, value, target, disabled, edit }: Props) {
  const [at, setAt, refused] = useTypedField(value, target, (next) =>
    /^\d{4}-\d\d-\d\dT([01]\d|2[0-3]):[0-5]\d$/.test(next) ? edit(next) : undefined,
  );
  const [day = "", time = ""] = at.split("T");
  return (
    <>
      <div className={classes.moment}>
        <DayField label={label} clearable={false} value={day} disabled={disabled} onChange={(next) => setAt(`${next}T${time}`)} />
        <TextInput
          aria-label={`${label}, time`}
          placeholder="00:00"
          inputMode="numeric"
          value={time}
          disabled={disabled}
          error={!/^([01]\d|2[0-3]):[0-5]\d$/.test(time) && at !== "" ? "Like 09:30" : undefined}
          onChange={(e) => setAt(`${day}T${e.currentTarget.value}`)}
        />
      </div>
      {refused && (
        <p role="alert" className={classes.fault}>
          ■ {refused}
        </p>
      )}
    </>
  );
}
