import { Button, FileInput, Modal, Select, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { fileBody } from "../../shared/fileBody";
import { newId } from "../../shared/ids";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import classes from "./NewTemplateDialog.module.css";

/** Brings a template in from a file, with the rows and pictures that come in it. */
export default function ImportTemplateDialog({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const types = useCampaignTypes();
  const [file, setFile] = useState<File | null>(null);
  const [name, setName] = useState("");
  const [type, setType] = useState<string | null>(null);
  const id = useRef(newId());
  const bring = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/templates/import", {
          params: { query: { id: id.current, name: name || undefined, campaignType: type ?? undefined } },
          ...fileBody(file as File),
        }),
      ),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    bring.mutate();
  };
  return (
    <Modal opened onClose={onClose} title="Import a template" closeButtonProps={{ "aria-label": "Close" }}>
      {bring.data ? (
        <div className={classes.form}>
          <p role="status">
            “{bring.data.template.name}” is here as a draft
            {bring.data.rows.length > 0 && `, with the rows ${bring.data.rows.join(", ")}`}
            {bring.data.pictures > 0 && ` and ${bring.data.pictures} pictures`}.
          </p>
          <Button onClick={() => navigate(`/templates/${bring.data.template.id}`)}>Open it</Button>
        </div>
      ) : (
        <form onSubmit={submit} className={classes.form}>
          <FileInput
            data-autofocus
            label="Template file"
            description="A .template.json, as Golden Rule exports templates."
            accept="application/json,.json"
            required
            value={file}
            onChange={setFile}
            error={bring.error?.message}
          />
          <TextInput
            label="Name"
            placeholder="As in the file"
            maxLength={120}
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
          />
          <Select label="Campaign type" placeholder="As in the file" clearable data={types.made} value={type} onChange={setType} />
          <Button type="submit" loading={bring.isPending} disabled={!file}>
            Import
          </Button>
        </form>
      )}
    </Modal>
  );
}
