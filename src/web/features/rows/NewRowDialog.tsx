import { Button, Modal, MultiSelect, Select, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import type { RowEntry } from "../../api/types";
import { newId } from "../../shared/ids";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import classes from "./RowsRoom.module.css";
import { useRowKinds } from "./useRowKinds";

interface Props {
  kind?: string;
  campaignType?: string;
  /** Begins as this row's copy. */
  variantOf?: RowEntry;
  onClose: () => void;
}

/** A new saved row, empty or as the variant of another; it opens on the desk. */
export function NewRowDialog({ kind: wanted, campaignType, variantOf, onClose }: Props) {
  const navigate = useNavigate();
  const types = useCampaignTypes();
  const kinds = useRowKinds();
  const [name, setName] = useState(
    variantOf ? `${variantOf.name}, variant` : `New ${kinds.nameOf(wanted ?? kinds.usual).toLowerCase()} row`,
  );
  const [kind, setKind] = useState(kinds.current(wanted ?? kinds.usual));
  const [serves, setServes] = useState<string[]>(variantOf?.campaignTypes ?? (campaignType ? [campaignType] : []));
  const [varies, setVaries] = useState("");
  const id = useRef(newId());
  const make = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/rows", {
          body: {
            id: id.current,
            name,
            rowKind: kind,
            campaignTypes: serves,
            description: null,
            variantOf: variantOf?.id ?? null,
            varies: variantOf ? varies : null,
            from: null,
          },
        }),
      ),
    onSuccess: (row) => navigate(`/rows/${row.id}`),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <Modal
      opened
      onClose={onClose}
      title={variantOf ? `A variant of ${variantOf.name}` : "New row"}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      <form onSubmit={submit} className={classes.form}>
        <TextInput
          data-autofocus
          onFocus={(e) => e.currentTarget.select()}
          label="Name"
          required
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          error={make.error?.message}
        />
        {variantOf && (
          <TextInput
            label="Variant of"
            placeholder="on a tint; without a picture"
            value={varies}
            onChange={(e) => setVaries(e.currentTarget.value)}
          />
        )}
        <Select label="Row kind" data={kinds.offeredWith(kind)} value={kind} onChange={(v) => v && setKind(v)} />
        <MultiSelect
          label="For campaign types"
          placeholder={serves.length === 0 ? "All of them" : undefined}
          data={types.made}
          value={serves}
          onChange={setServes}
        />
        <Button type="submit" loading={make.isPending}>
          Create
        </Button>
      </form>
    </Modal>
  );
}
