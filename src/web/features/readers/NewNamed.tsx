import { Button, TextInput } from "@mantine/core";
import { type FormEvent, type ReactNode, useState } from "react";
import { keyOf } from "../../shared/technicalName";
import classes from "./ReadersRoom.module.css";

interface Props {
  label: string;
  placeholder: string;
  taken: (key: string) => boolean;
  onMake: (key: string, name: string) => void;
  /** What else is said of a new one. */
  children?: ReactNode;
}

/** Makes something new by its name; its technical name comes from that. */
export function NewNamed({ label, placeholder, taken, onMake, children }: Props) {
  const [name, setName] = useState("");
  const key = keyOf(name);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onMake(key, name.trim());
    setName("");
  };
  return (
    <form onSubmit={submit} className={classes.adding} data-alone={!children}>
      <TextInput
        label={label}
        placeholder={placeholder}
        maxLength={120}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        error={taken(key) ? "There is one of that name." : name && !key ? "The name needs a letter." : undefined}
      />
      {children}
      <Button type="submit" variant="default" disabled={!key || taken(key)}>
        Add
      </Button>
    </form>
  );
}
