import { Button, Modal, Select } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { UsesList } from "./UsesList";

interface Props {
  desk: Desk;
  onRetire: (heir: string | null) => void;
  onClose: () => void;
}

/** What goes on using a template or saved row that is retired, and what is to take its place. */
export default function RetireDialog({ desk, onRetire, onClose }: Props) {
  const [heir, setHeir] = useState<string | null>(null);
  const masters = useQuery(queries.masters);
  const others = masters.data?.filter((m) => m.row === (desk.kind === "row") && m.release > 0 && m.id !== desk.id) ?? [];
  const what = desk.kind === "row" ? "row" : "template";
  return (
    <Modal opened onClose={onClose} title={`Retire ${desk.name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <form
        className={classes.form}
        onSubmit={(event) => {
          event.preventDefault();
          onRetire(heir);
        }}
      >
        <p>
          {desk.kind === "row"
            ? "It is put into nothing new. What uses it goes on, with a finding that says so."
            : "No email is started from it any more. Emails made from it go on, with a finding that says so."}
        </p>
        <Select
          data-autofocus
          label="What takes its place"
          placeholder={`Another ${what}, if there is one`}
          description="The finding names it, and offers it where it fits."
          data={others.map((m) => ({ value: m.id, label: m.name }))}
          value={heir}
          onChange={setHeir}
          searchable
          clearable
        />
        <section aria-label="Where it is used">
          <h3>Where it is used</h3>
          <UsesList of={desk.kind === "row" ? "rows" : "templates"} id={desk.id} revision={desk.revision} />
        </section>
        <Button type="submit">Retire</Button>
      </form>
    </Modal>
  );
}
