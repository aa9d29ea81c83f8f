import { NativeSelect } from "@mantine/core";
import { TimeInput } from "@mantine/dates";
import { useEffect, useRef } from "react";
import type { FieldValue } from "../../../../api/types";
import { DayField } from "../../../../shared/DayField";
import classes from "./fields.module.css";

type Moment = Extract<FieldValue, { kind: "moment" }>;

interface Props {
  id: string;
  label: string;
  moment: Moment;
  asked: number;
  onChange: (moment: Moment) => void;
}

const zones = Intl.supportedValuesOf("timeZone");

/** A day with or without a time, and when it ends. */
export function MomentField({ id, label, moment, asked, onChange }: Props) {
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (asked > 0) {
      first.current?.focus();
    }
  }, [asked]);
  const row = (name: "start" | "end", title: string) => {
    const [day = "", time = ""] = moment[name].split("T");
    const set = (nextDay: string, nextTime: string) =>
      onChange({ ...moment, [name]: nextDay ? nextDay + (nextTime ? `T${nextTime}` : "") : "" });
    return (
      <div className={classes.moment}>
        <span>{title}</span>
        <DayField
          bare
          label={`${label}, ${title.toLowerCase()}, day`}
          id={name === "start" ? id : undefined}
          ref={name === "start" ? first : undefined}
          value={day}
          onChange={(next) => set(next, time)}
        />
        <TimeInput
          aria-label={`${label}, ${title.toLowerCase()}, time`}
          value={time}
          disabled={!day}
          onChange={(e) => set(day, e.currentTarget.value)}
        />
      </div>
    );
  };
  return (
    <fieldset className={classes.links}>
      <legend className={classes.label}>{label}</legend>
      {row("start", "From")}
      {row("end", "To")}
      <div className={classes.moment}>
        <span>Time in</span>
        <NativeSelect
          aria-label={`${label}, time zone`}
          value={moment.zone}
          data={zones.includes(moment.zone) ? zones : [moment.zone, ...zones]}
          onChange={(e) => onChange({ ...moment, zone: e.currentTarget.value })}
        />
      </div>
    </fieldset>
  );
}
