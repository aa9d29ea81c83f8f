import { Button, Modal, NativeSelect, PasswordInput, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Destination, DestinationList } from "../../api/types";
import { newId } from "../../shared/ids";
import classes from "./Sending.module.css";
import { useSeenVersion } from "./useSeenVersion";

const pictureWays = {
  linked: "stay here and are linked",
  uploaded: "are uploaded to it and linked there",
  inside: "are carried inside",
};

/** A destination: what sort it is, where it is, and how emails are written for it. */
export function DestinationDialog({ list, of, onClose }: { list: DestinationList; of?: Destination; onClose: () => void }) {
  const cache = useQueryClient();
  const id = useRef(of?.id ?? newId());
  const [kindName, setKind] = useState(of?.kind ?? list.kinds[0]?.name ?? "");
  const kind = list.kinds.find((k) => k.name === kindName);
  const [name, setName] = useState(of?.name ?? kind?.title ?? "");
  const [address, setAddress] = useState(of?.address ?? "");
  const [user, setUser] = useState(of?.user ?? "");
  const [secret, setSecret] = useState("");
  const [profile, setProfile] = useState(of?.profile ?? list.profiles[0]?.key ?? "mustache");
  const [pictures, setPictures] = useState(of?.pictures);
  const { version, onError } = useSeenVersion(of?.version, async () => {
    const { all } = await cache.fetchQuery({ ...queries.destinations, staleTime: 0 });
    return all.find((d) => d.id === of?.id)?.version;
  });
  const store = useMutation({
    mutationFn: () => {
      const body = {
        id: id.current,
        name,
        kind: kindName,
        profile,
        pictures: pictures && kind?.pictures.includes(pictures) ? pictures : undefined,
        address,
        user,
        // Nothing typed: the one that is kept stays.
        secret: secret || !of?.hasSecret ? secret : undefined,
        version,
      };
      return ask(
        of ? api.PUT("/api/destinations/{id}", { params: { path: { id: id.current } }, body }) : api.POST("/api/destinations", { body }),
      );
    },
    onSuccess: (answer) => {
      cache.setQueryData(queries.destinations.queryKey, answer);
      onClose();
    },
    onError,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    store.mutate();
  };
  if (!kind) {
    return null;
  }
  return (
    <Modal opened onClose={onClose} title={of ? of.name : "Add a destination"} size={520} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        {!of && (
          <NativeSelect
            label="What it is"
            description={kind.explained}
            value={kindName}
            onChange={(e) => {
              const next = list.kinds.find((k) => k.name === e.currentTarget.value);
              setName(name === kind.title ? (next?.title ?? name) : name);
              setKind(e.currentTarget.value);
            }}
            data={list.kinds.map((k) => ({ value: k.name, label: k.title }))}
          />
        )}
        <TextInput label="Name" required maxLength={60} data-autofocus value={name} onChange={(e) => setName(e.currentTarget.value)} />
        {kind.addressExample && (
          <TextInput
            label="Address"
            description={kind.needsAddress ? undefined : "Left empty: the mail server of this server's settings."}
            placeholder={kind.addressExample}
            required={kind.needsAddress}
            value={address}
            onChange={(e) => setAddress(e.currentTarget.value)}
          />
        )}
        {kind.hasUser && <TextInput label="User" autoComplete="off" value={user} onChange={(e) => setUser(e.currentTarget.value)} />}
        {kind.secretName && (
          <PasswordInput
            label={kind.secretName}
            description={
              of?.hasSecret ? "Kept encrypted and never shown. Leave it empty to keep it." : "Kept encrypted, and never shown again."
            }
            autoComplete="off"
            visibilityToggleButtonProps={{ "aria-label": "Show what is typed" }}
            value={secret}
            onChange={(e) => setSecret(e.currentTarget.value)}
          />
        )}
        <NativeSelect
          label="Fields and conditions written for"
          value={profile}
          onChange={(e) => setProfile(e.currentTarget.value)}
          data={list.profiles.map((p) => ({ value: p.key, label: p.name }))}
        />
        {kind.pictures.length > 1 && (
          <NativeSelect
            label="Pictures"
            value={pictures && kind.pictures.includes(pictures) ? pictures : kind.pictures[0]}
            onChange={(e) => setPictures(e.currentTarget.value as Destination["pictures"])}
            data={kind.pictures.map((p) => ({ value: p, label: pictureWays[p] }))}
          />
        )}
        {store.error && <p role="alert">■ {store.error.message}</p>}
        <Button type="submit" loading={store.isPending} disabled={!name.trim()}>
          {of ? "Change it" : "Add it"}
        </Button>
      </form>
    </Modal>
  );
}
