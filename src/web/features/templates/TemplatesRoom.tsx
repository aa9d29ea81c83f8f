import { Button, Modal, TextInput } from "@mantine/core";
import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { api, ask } from "../../api/client";
import type { TemplateEntry } from "../../api/types";
import { newId } from "../../shared/ids";
import { MailThumbnail } from "../../shared/MailThumbnail";
import { useSession } from "../session/useSession";
import classes from "./TemplatesRoom.module.css";

/** The templates of a campaign type, as they look. */
export default function TemplatesRoom() {
  const [search, setSearch] = useSearchParams();
  const chosen = search.get("type");
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  const templates = useQuery({ queryKey: ["templates"], queryFn: () => ask(api.GET("/api/templates")) });
  const session = useSession();
  const [starting, setStarting] = useState<TemplateEntry>();
  const mayStart = session.data?.roles.some((r) => r !== "reviewer") ?? false;

  const all = templates.data ?? [];
  const shown = all.filter((t) => !chosen || t.campaignType === chosen);
  const typeName = (key: string) => types.data?.find((t) => t.key === key)?.name ?? key;

  return (
    <div className={classes.room}>
      <nav className={classes.types} aria-label="Campaign types">
        <h1>Templates</h1>
        <button type="button" className={`plain ${classes.type}`} aria-current={!chosen} onClick={() => setSearch({})}>
          <span>All campaign types</span>
          <span className="soft">{all.length}</span>
        </button>
        {types.data?.map((type) => (
          <button
            type="button"
            key={type.key}
            className={`plain ${classes.type}`}
            aria-current={chosen === type.key}
            onClick={() => setSearch({ type: type.key })}
          >
            <span>
              {type.name}
              <span className={classes.team}>{type.team}</span>
            </span>
            <span className="soft">{all.filter((t) => t.campaignType === type.key).length}</span>
          </button>
        ))}
      </nav>
      <section className={classes.shelf} aria-label={chosen ? typeName(chosen) : "All campaign types"}>
        {templates.error && <p role="alert">{templates.error.message}</p>}
        {templates.data && shown.length === 0 && (
          <p className={classes.empty}>
            {chosen ? typeName(chosen) : "The library"} has no template yet. A lead or a designer makes one; until then, start from the
            template of another campaign type.
          </p>
        )}
        {shown.map((template) => (
          <article key={template.id} className={classes.template} aria-label={template.name}>
            <MailThumbnail
              src={`/api/templates/${template.id}/html?release=${template.release}`}
              width={264}
              height={330}
              label={`${template.name}, as it looks`}
            />
            <div className={classes.about}>
              <h2>{template.name}</h2>
              <p className="soft">
                {typeName(template.campaignType)}, release {template.release}
              </p>
              <p>{template.description}</p>
              <p className={classes.zones}>
                {template.zones.map((zone) => (
                  <span key={zone}>{zone}</span>
                ))}
              </p>
              {mayStart && (
                <Button variant="default" onClick={() => setStarting(template)}>
                  Start an email
                </Button>
              )}
            </div>
          </article>
        ))}
      </section>
      {starting && <StartDialog template={starting} onClose={() => setStarting(undefined)} />}
    </div>
  );
}

function StartDialog({ template, onClose }: { template: TemplateEntry; onClose: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  // One id for this dialog: asked twice, the server makes one email.
  const id = useRef(newId());
  const start = useMutation({
    mutationFn: () => ask(api.POST("/api/emails", { body: { id: id.current, template: template.id, name } })),
    onSuccess: (email) => navigate(`/emails/${email.id}`),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    start.mutate();
  };
  return (
    <Modal opened onClose={onClose} title={`Start from ${template.name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.start}>
        <TextInput
          data-autofocus
          label="Name"
          description="For your colleagues; readers never see it."
          required
          maxLength={200}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          error={start.error?.message}
        />
        <Button type="submit" loading={start.isPending}>
          Start
        </Button>
      </form>
    </Modal>
  );
}
