import { TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { Snippet } from "../../api/types";
import { EditFault, EditMoves } from "../../shared/EditState";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { Thumbnail } from "../../shared/Thumbnail";
import { EditingContext, trimmed, useTypedField } from "../../shared/useLiveField";
import { useSession } from "../session/useSession";
import { ScheduleRuler } from "./ScheduleRuler";
import { SnippetSide } from "./SnippetSide";
import classes from "./SnippetsRoom.module.css";
import { typeLabel } from "./snippetTypes";
import { useSnippet } from "./useSnippet";
import { ValueRow } from "./ValueRow";

/** What a snippet says, when, and who may use and change it. */
export function SnippetEditor({ id }: { id: string }) {
  const { snippet, edit, move, fault, offline, stuck, editing } = useSnippet(id, useSession().data?.id ?? "");
  const data = snippet.data;
  if (!data) {
    return (
      <section className={classes.middle}>
        <Pending query={snippet} what="The snippet" />
      </section>
    );
  }
  return (
    <EditingContext value={editing}>
      <section className={classes.middle} aria-label={data.snippet.name}>
        <title>{`${data.snippet.name}, snippet · Golden Rule`}</title>
        <header className={classes.head}>
          <Name data={data} />
          <EditMoves {...data} offline={offline} move={move} />
        </header>
        <p className={classes.about}>
          {typeLabel(data.snippet.type)}, technical name <code>{data.snippet.key}</code>
          {data.retired && <b>, retired</b>}
        </p>
        <EditFault fault={fault} stuck={stuck} move={move} />
        <Description data={data} />
        {!data.change.allowed && <p className={classes.locked}>{data.change.reason}</p>}
        <ScheduleRuler data={data} />
        <Values data={data} edit={edit} />
        <AsItReads data={data} />
      </section>
      <SnippetSide data={data} />
    </EditingContext>
  );
}

function Name({ data }: { data: Snippet }) {
  const [name, setName, refused] = useTypedField(data.snippet.name, "name", (next) => ({ kind: "set-name", name: next }), trimmed);
  return (
    <h2 className={classes.title}>
      <TextInput
        aria-label="Name"
        variant="unstyled"
        value={name}
        error={refused}
        disabled={!data.change.allowed}
        maxLength={200}
        onChange={(e) => setName(e.currentTarget.value)}
      />
    </h2>
  );
}

function Description({ data }: { data: Snippet }) {
  const [text, setText, refused] = useTypedField(data.snippet.description ?? "", "about/description", (next) => ({
    kind: "set-description",
    text: next,
  }));
  return (
    <TextInput
      label="What it is for"
      className={classes.description}
      value={text}
      error={refused}
      disabled={!data.change.allowed}
      onChange={(e) => setText(e.currentTarget.value)}
    />
  );
}

function Values({ data, edit }: { data: Snippet; edit: ReturnType<typeof useSnippet>["edit"] }) {
  const { values = [], expires, type } = data.snippet;
  const [added, setAdded] = useState<string>();
  const last = values.at(-1);
  const add = () => {
    if (!last) {
      return;
    }
    const id = newId();
    edit({ kind: "add-snippet-value", value: { id, from: dayAfter(last.from || data.now), value: last.value } }, `values/${id}`);
    setAdded(id);
  };
  return (
    <section aria-label="What it says" className={classes.values}>
      {values.map((value, i) => (
        <ValueRow
          key={value.id}
          data={data}
          value={value}
          until={values[i + 1]?.from ?? expires ?? ""}
          holds={i === data.holds && !data.expired}
          focused={value.id === added}
          edit={edit}
        />
      ))}
      {data.change.allowed && (
        <p className={classes.acts}>
          <button type="button" className="plain underlined" onClick={add}>
            Another value from a moment on
          </button>
          {!expires && (
            <button
              type="button"
              className="plain underlined"
              onClick={() => edit({ kind: "set-snippet-expiry", at: dayAfter(last?.from || data.now, 30) }, "expires")}
            >
              Expire at a moment
            </button>
          )}
          {type === "text" && <span className="soft">What you write holds at once, in every email that is not handed off.</span>}
        </p>
      )}
    </section>
  );
}

/** The beginning of the day so many days later, as local moments are written. */
function dayAfter(local: string, days = 1): string {
  const at = new Date(`${local.slice(0, 10)}T00:00:00Z`);
  at.setUTCDate(at.getUTCDate() + days);
  return `${at.toISOString().slice(0, 10)}T00:00`;
}

function AsItReads({ data }: { data: Snippet }) {
  const uses = useQuery({ ...queries.snippetPreview(data.id, data.revision) });
  const emails = uses.data?.uses.filter((u) => u.kind === "email").slice(0, 2) ?? [];
  if (emails.length === 0) {
    return null;
  }
  return (
    <section aria-label="As it reads" className={classes.reads}>
      <h3>As it reads</h3>
      <div className={classes.thumbnails}>
        {emails.map((email) => (
          <figure key={email.id}>
            <figcaption className="soft">{email.name}</figcaption>
            <Thumbnail
              subject={{ kind: "email", id: email.id, draft: false }}
              version={`${data.revision}`}
              width={230}
              height={200}
              label={`${email.name}, as it looks now`}
            />
          </figure>
        ))}
      </div>
    </section>
  );
}
