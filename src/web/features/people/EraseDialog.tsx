import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Account } from "../../api/types";
import classes from "./PeopleRoom.module.css";

interface Props {
  account: Account;
  onErase: () => void;
  onClose: () => void;
}

/** What cannot be taken back is asked for by typing the name. */
export function EraseDialog({ account, onErase, onClose }: Props) {
  const [typed, setTyped] = useState("");
  return (
    <Modal opened onClose={onClose} title={`Erase ${account.name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <form
        className={classes.form}
        onSubmit={(event) => {
          event.preventDefault();
          onErase();
          onClose();
        }}
      >
        <p>
          The name and the address go for good, from the list, the histories and the log. What was done stays, as done by “A former
          colleague”. This cannot be undone.
        </p>
        <TextInput
          label={`Type ${account.name} to go on`}
          data-autofocus
          autoComplete="off"
          value={typed}
          onChange={(e) => setTyped(e.currentTarget.value)}
        />
        <Button type="submit" disabled={typed.trim() !== account.name}>
          Erase for good
        </Button>
      </form>
    </Modal>
  );
}
