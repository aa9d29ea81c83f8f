import { Button, Modal, NativeSelect, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, ask } from "../../api/client";
import type { SnippetType } from "../../api/types";
import { newId } from "../../shared/ids";
import { keyOf } from "../../shared/technicalName";
import classes from "./SnippetsRoom.module.css";
import { types } from "./snippetTypes";

/** A new snippet: what it is called and of what type it is; what it says is written next. */
export default function NewSnippetDialog({ onClose, onMade }: { onClose: () => void; onMade: (id: string) => void }) {
  const cache = useQueryClient();
  const [name, setName] = useState("");
  const [key, setKey] = useState<string>();
  const [type, setType] = useState<SnippetType>("text");
  const [description, setDescription] = useState("");
  const id = useRef(newId());
  const technical = key ?? keyOf(name);
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/snippets", { body: { id: id.current, key: technical, name, type, description, value: null } })),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["snippets"] });
      onMade(id.current);
    },
    // Another attempt is another snippet.
    onError: () => {
      id.current = newId();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <Modal opened onClose={onClose} title="New snippet" closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        <TextInput
          label="Name"
          placeholder="Next running days"
          data-autofocus
          maxLength={200}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <NativeSelect
          label="Type"
          description="It stays."
          value={type}
          onChange={(e) => setType(e.currentTarget.value as SnippetType)}
          data={types.map((t) => ({ value: t.type, label: `${t.label}: ${t.note}` }))}
        />
        <TextInput
          label="What it is for"
          placeholder="When trains run next, in one short sentence."
          value={description}
          onChange={(e) => setDescription(e.currentTarget.value)}
        />
        <TextInput
          label="Technical name"
          description="Copy decks call it by this. It stays too."
          value={technical}
          onChange={(e) => setKey(e.currentTarget.value)}
        />
        {make.error && <p role="alert">■ {make.error.message}</p>}
        <Button type="submit" loading={make.isPending} disabled={!name.trim() || !technical}>
          Make it
        </Button>
      </form>
    </Modal>
  );
}
