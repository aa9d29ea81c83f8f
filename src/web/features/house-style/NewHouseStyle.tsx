import { Button, Modal, NativeSelect, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import { newId } from "../../shared/ids";
import classes from "./dialogs.module.css";

/** Makes a house style: one that stands alone, or a sub-brand that says only what differs. */
export default function NewHouseStyle({ onClose }: { onClose: () => void }) {
  const go = useNavigate();
  const cache = useQueryClient();
  const all = useQuery(queries.houseStyles);
  const [id] = useState(newId);
  const [name, setName] = useState("");
  const [parent, setParent] = useState("");
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/house-styles", { body: { id, name, parent: parent || null } })),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["house-styles"] });
      onClose();
      go(`/house-style/${id}`);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <Modal opened onClose={onClose} title="New house style" closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        <TextInput
          label="Name"
          required
          maxLength={120}
          data-autofocus
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          error={make.error?.message}
        />
        <NativeSelect
          label="Parent style"
          description="A sub-brand inherits everything and says only what differs."
          value={parent}
          onChange={(e) => setParent(e.currentTarget.value)}
          data={[
            { value: "", label: "nothing: it stands alone" },
            ...(all.data ?? []).filter((s) => s.release > 0).map((s) => ({ value: s.id, label: s.name })),
          ]}
        />
        <Button type="submit" loading={make.isPending}>
          Create
        </Button>
      </form>
    </Modal>
  );
}
