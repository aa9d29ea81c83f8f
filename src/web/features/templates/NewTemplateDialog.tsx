import { Button, Modal, Radio, Select, TextInput } from "@mantine/core";
import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { TemplateEntry } from "../../api/types";
import { newId } from "../../shared/ids";
import { MailThumbnail } from "../../shared/MailThumbnail";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import classes from "./NewTemplateDialog.module.css";

interface Props {
  /** The template it is to be a copy of. */
  from?: TemplateEntry;
  /** The email it is to be made from. */
  email?: { id: string; name: string; campaignType: string };
  campaignType?: string;
  onClose: () => void;
}

/** A new template: from nothing, from a starter, or as the copy of a template or an email. */
export default function NewTemplateDialog({ from, email, campaignType, onClose }: Props) {
  const navigate = useNavigate();
  const types = useCampaignTypes();
  const styles = useQuery(queries.houseStyles);
  const starters = useQuery({ ...queries.starters, enabled: !from && !email });
  const [name, setName] = useState(from ? `${from.name}, copy` : (email?.name ?? ""));
  const [named, setNamed] = useState(from !== undefined || email !== undefined);
  const [type, setType] = useState<string | null>(from?.campaignType ?? email?.campaignType ?? campaignType ?? null);
  const [style, setStyle] = useState<string | null>(null);
  const [starter, setStarter] = useState("");
  const id = useRef(newId());
  // Until it is named it is called after what it is for.
  const offered = type ? types.nameOf(type) : "New template";
  const released = styles.data?.filter((s) => s.release > 0) ?? [];
  const make = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/templates", {
          body: {
            id: id.current,
            name: named ? name : offered,
            campaignType: type ?? "",
            houseStyle: style,
            from: from || email || starter ? { template: from?.id ?? null, email: email?.id ?? null, starter: starter || null } : null,
          },
        }),
      ),
    onSuccess: (template) => navigate(`/templates/${template.id}`),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  const title = from ? `Duplicate ${from.name}` : email ? `A template from ${email.name}` : "New template";
  return (
    <Modal opened onClose={onClose} title={title} size={from || email ? "md" : 760} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        <div className={classes.pair}>
          <TextInput
            data-autofocus
            onFocus={(e) => e.currentTarget.select()}
            label="Name"
            required
            maxLength={120}
            value={named ? name : offered}
            onChange={(e) => {
              setNamed(true);
              setName(e.currentTarget.value);
            }}
          />
          <Select label="Campaign type" required data={types.made} value={type} onChange={setType} />
          {released.length > 1 && !from && !email && (
            <Select
              label="House style"
              data={released.map((s) => ({ value: s.id, label: s.name }))}
              value={style ?? released.find((s) => !s.parent)?.id ?? null}
              onChange={setStyle}
            />
          )}
        </div>
        {!from && !email && (
          <Radio.Group label="Begin with" value={starter} onChange={setStarter}>
            <div className={classes.starters}>
              <Radio.Card value="" className={classes.starter}>
                <span className={classes.nothing} />
                <b>Nothing</b>
                <span className="soft">An empty running order.</span>
              </Radio.Card>
              {starters.data?.map((s) => (
                <Radio.Card key={s.name} value={s.name} className={classes.starter}>
                  <MailThumbnail
                    src={`/api/starters/${s.name}/html${style ? `?houseStyle=${style}` : ""}`}
                    width={150}
                    height={92}
                    label={`${s.label}, as it looks`}
                  />
                  <b>{s.label}</b>
                  <span className="soft">{s.about}</span>
                </Radio.Card>
              ))}
            </div>
          </Radio.Group>
        )}
        {make.error && <p role="alert">{make.error.message}</p>}
        <Button type="submit" loading={make.isPending} disabled={!type}>
          Create
        </Button>
      </form>
    </Modal>
  );
}
