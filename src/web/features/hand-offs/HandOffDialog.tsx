import { Button, Modal, NativeSelect, Textarea } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { EmailHandOffs } from "../../api/types";
import { DayField } from "../../shared/DayField";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { useIs } from "../session/useSession";
import classes from "./HandOffRoom.module.css";

/** Freezes an approved email and hands it off. */
export default function HandOffDialog({ email, onClose }: { email: string; onClose: () => void }) {
  const offs = useQuery(queries.handOffs(email));
  return (
    <Modal opened onClose={onClose} title="Hand off" size={520} closeButtonProps={{ "aria-label": "Close" }}>
      {offs.data ? <Form email={email} offs={offs.data} /> : <Pending query={offs} what="What is to be handed off" />}
    </Modal>
  );
}

function Form({ email, offs }: { email: string; offs: EmailHandOffs }) {
  const cache = useQueryClient();
  const go = useNavigate();
  const leads = useIs("lead");
  const [profile, setProfile] = useState(offs.profiles[0]?.key ?? "mustache");
  const [note, setNote] = useState("");
  const [until, setUntil] = useState("");
  const id = useRef(newId());
  // What is seen here is what is handed off, and nothing else.
  const [hash] = useState(offs.hash);
  const send = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/emails/{id}/hand-offs", {
          params: { path: { id: email } },
          body: { id: id.current, hash, profile, note, pageUntil: until || null },
        }),
      ),
    onSuccess: (answer) => {
      cache.setQueryData(queries.handOff(answer.record.id).queryKey, answer);
      void cache.invalidateQueries({ queryKey: ["hand-offs", email] });
      void cache.invalidateQueries({ queryKey: ["review", email] });
      go(`/emails/${email}/hand-offs/${answer.record.number}`);
    },
  });
  const former = offs.all[0];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate();
  };
  return (
    <form onSubmit={submit} className={classes.form}>
      {!offs.handOff.allowed && <p role="alert">■ {offs.handOff.reason}</p>}
      <p>
        HTML, text, message, pictures and attached files are frozen as they are, with every release they are made from. Nobody changes them
        afterwards.
      </p>
      {former && (
        <p className="soft">
          It corrects hand-off {former.number}
          {former.withdrawal ? ", which is withdrawn." : ", which stays until it is withdrawn."}
        </p>
      )}
      {offs.hasFields && offs.profiles.length > 1 && (
        <NativeSelect
          label="Fields and conditions written for"
          value={profile}
          onChange={(e) => setProfile(e.currentTarget.value)}
          data={offs.profiles.map((p) => ({ value: p.key, label: p.name }))}
        />
      )}
      {leads && (
        <DayField label="Last day of the page for browsers" value={until} placeholder="until it is withdrawn" onChange={setUntil} />
      )}
      <Textarea
        label="A note for the record, if you like"
        autosize
        minRows={2}
        maxLength={2000}
        value={note}
        onChange={(e) => setNote(e.currentTarget.value)}
      />
      {send.error && <p role="alert">■ {send.error.message}</p>}
      <Button type="submit" loading={send.isPending} disabled={!offs.handOff.allowed} data-autofocus>
        Hand off
      </Button>
    </form>
  );
}
