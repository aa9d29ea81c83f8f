import { Button, Modal, MultiSelect, Select, Textarea, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { DeskRow } from "../../api/types";
import { newId } from "../../shared/ids";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { useRowKinds } from "../rows/useRowKinds";

/** Puts a row into the library as a draft, with all that is filled in. */
export default function SaveRowDialog({ row, desk, onClose }: { row: DeskRow; desk: Desk; onClose: () => void }) {
  const types = useCampaignTypes();
  const kinds = useRowKinds();
  const [name, setName] = useState(row.name);
  const [kind, setKind] = useState(kinds.current(row.rowKind));
  const [serves, setServes] = useState<string[]>([]);
  const [description, setDescription] = useState("");
  const id = useRef(newId());
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/rows", {
          body: {
            id: id.current,
            name,
            rowKind: kind,
            campaignTypes: serves,
            description,
            from: { kind: desk.kind, document: desk.id, row: row.id },
          },
        }),
      ),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <Modal opened onClose={onClose} title="Save to the library" closeButtonProps={{ "aria-label": "Close" }}>
      {save.data ? (
        <div className={classes.form}>
          <p role="status">“{save.data.name}” is in the library as a draft. Release it to let others use it.</p>
          <Button component={Link} to={`/rows/${save.data.id}`}>
            Open it
          </Button>
        </div>
      ) : (
        <form onSubmit={submit} className={classes.form}>
          <TextInput
            data-autofocus
            label="Name"
            required
            maxLength={120}
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            error={save.error?.message}
          />
          <Select label="Row kind" data={kinds.offeredWith(kind)} value={kind} onChange={(v) => v && setKind(v)} />
          <MultiSelect
            label="For campaign types"
            placeholder={serves.length === 0 ? "All of them" : undefined}
            data={types.made}
            value={serves}
            onChange={setServes}
          />
          <Textarea
            label="What it is for"
            autosize
            minRows={2}
            value={description}
            onChange={(e) => setDescription(e.currentTarget.value)}
          />
          <Button type="submit" loading={save.isPending}>
            Save
          </Button>
        </form>
      )}
    </Modal>
  );
}
