import { DateInput } from "@mantine/dates";
import "@mantine/dates/styles.css";
import dayjs from "dayjs";
import customParseFormat from "dayjs/plugin/customParseFormat";

dayjs.extend(customParseFormat);

interface Props {
  label: string;
  id?: string;
  /** ISO 8601: "2026-11-28"; empty: no day. */
  value: string;
  onChange: (day: string) => void;
  disabled?: boolean;
  placeholder?: string;
  /** Whether there may be no day. */
  clearable?: boolean;
  /** The label is heard, not seen. */
  bare?: boolean;
  className?: string;
  size?: "xs" | "sm";
  ref?: React.Ref<HTMLInputElement>;
}

// The month in letters reads alike everywhere; what is typed may be in figures, the day first as in the interface's English.
const shown = "D MMM YYYY";
const typed = ["D MMM YYYY", "D MMMM YYYY", "D MMM YY", "YYYY-MM-DD", "D/M/YYYY", "D.M.YYYY", "D-M-YYYY", "D/M/YY"];

/** A day, typed or chosen from a calendar. */
export function DayField({ label, value, onChange, bare, placeholder = "day month year", clearable = true, ...rest }: Props) {
  return (
    <DateInput
      {...rest}
      {...(bare ? { "aria-label": label } : { label })}
      clearable={clearable}
      clearButtonProps={{ "aria-label": "Clear the day" }}
      firstDayOfWeek={1}
      // Red is for what is wrong.
      weekendDays={[]}
      valueFormat={shown}
      placeholder={placeholder}
      dateParser={(text) => {
        const day = typed.map((format) => dayjs(text.trim(), format, true)).find((one) => one.isValid());
        return day ? day.format("YYYY-MM-DD") : null;
      }}
      value={value || null}
      onChange={(day) => onChange(day ?? "")}
      popoverProps={{ withinPortal: true }}
    />
  );
}
