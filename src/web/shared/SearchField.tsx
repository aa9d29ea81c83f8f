import { TextInput } from "@mantine/core";
import classes from "./ListRoom.module.css";

interface Props {
  label: string;
  /** What is looked through. */
  placeholder: string;
  value: string;
  onChange: (words: string) => void;
  /** The focus of the dialog it stands in. */
  autoFocus?: boolean;
}

/** Where a list is searched by words. */
export function SearchField({ label, placeholder, value, onChange, autoFocus }: Props) {
  return (
    <TextInput
      type="search"
      size="sm"
      data-autofocus={autoFocus}
      className={classes.find}
      aria-label={label}
      placeholder={placeholder}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
    />
  );
}
