import { TextInput } from "@mantine/core";
import { useEffect, useState } from "react";

interface Props {
  label: string;
  name: string;
  onRename: (name: string) => void;
}

/** A name that is changed where it stands: kept when one leaves it or presses Enter, as it was after Escape. */
export function NameField({ label, name, onRename }: Props) {
  const [typed, setTyped] = useState(name);
  useEffect(() => setTyped(name), [name]);
  const keep = () => {
    const next = typed.trim();
    if (next && next !== name) {
      onRename(next);
    } else {
      setTyped(name);
    }
  };
  return (
    <TextInput
      size="xs"
      aria-label={label}
      maxLength={60}
      value={typed}
      onChange={(e) => setTyped(e.currentTarget.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === "Enter") {
          keep();
        }
        if (e.key === "Escape") {
          setTyped(name);
        }
      }}
    />
  );
}
