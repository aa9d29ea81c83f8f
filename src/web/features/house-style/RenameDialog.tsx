import { Button, Modal, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import classes from "./dialogs.module.css";
import { useRoom } from "./RoomContext";

/** Calls the house style something else. */
export default function RenameDialog({ onClose }: { onClose: () => void }) {
  const { style, edit } = useRoom();
  const [name, setName] = useState(style.name);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    edit({ kind: "set-name", name: name.trim() }, "name");
    onClose();
  };
  return (
    <Modal opened onClose={onClose} title="Rename the house style" closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        <TextInput label="Name" required maxLength={120} data-autofocus value={name} onChange={(e) => setName(e.currentTarget.value)} />
        <Button type="submit" disabled={!name.trim()}>
          Rename
        </Button>
      </form>
    </Modal>
  );
}
