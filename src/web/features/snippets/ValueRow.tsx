import { TextInput } from "@mantine/core";
import { useEffect, useRef } from "react";
import type { FieldValue, Snippet } from "../../api/types";
import { DayField } from "../../shared/DayField";
import { momentOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import { useTypedField } from "../../shared/useLiveField";
import { PictureField } from "../desk/copy/fields/PictureField";
import { MomentField } from "./MomentField";
import classes from "./SnippetsRoom.module.css";
import { emptyOf } from "./snippetTypes";
import type { useSnippet } from "./useSnippet";

const ProseField = lazily(() => import("../desk/copy/fields/ProseField"), <div className={classes.waiting} />);

interface Props {
  data: Snippet;
  value: NonNullable<Snippet["snippet"]["values"]>[number];
  /** When the next begins or it expires; empty: it holds without end. */
  until: string;
  holds: boolean;
  focused: boolean;
  edit: ReturnType<typeof useSnippet>["edit"];
}

/** One value of the schedule: what it says, from when, until when. */
export function ValueRow({ data, value, until, holds, focused, edit }: Props) {
  const { snippet } = data;
  const first = snippet.values?.[0]?.id === value.id;
  const last = snippet.values?.at(-1)?.id === value.id;
  const [shown, setShown, refused] = useTypedField<FieldValue>(value.value, `values/${value.id}`, (next) => ({
    kind: "set-snippet-value",
    id: value.id,
    value: next,
  }));
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (focused) {
      row.current?.querySelector<HTMLElement>("input, [contenteditable=true]")?.focus();
    }
  }, [focused]);
  const name = first ? "from the beginning" : `from ${momentOf(value.from ?? "")}`;
  return (
    <div className={classes.value} data-holds={holds} ref={row}>
      <div>
        <ValueInput
          id={`value-${value.id}`}
          label={holds ? "What it says now" : `What it says ${name}`}
          value={shown ?? emptyOf(snippet.type)}
          disabled={!data.change.allowed}
          onChange={setShown}
        />
        {refused && (
          <p role="alert" className={classes.fault}>
            ■ {refused}
          </p>
        )}
      </div>
      <div className={classes.span}>
        {first ? (
          <p>
            <b>From</b>
            <br />
            the beginning
          </p>
        ) : (
          <MomentField
            label="From"
            value={value.from ?? ""}
            target={`values/${value.id}/from`}
            disabled={!data.change.allowed}
            edit={(at) => ({ kind: "set-snippet-from", id: value.id, from: at })}
          />
        )}
      </div>
      <div className={classes.span}>
        {last && until ? (
          <>
            <MomentField
              label="Expires"
              value={until}
              target="expires"
              disabled={!data.change.allowed}
              edit={(at) => ({ kind: "set-snippet-expiry", at })}
            />
            {data.change.allowed && (
              <button type="button" className="plain underlined" onClick={() => edit({ kind: "set-snippet-expiry", at: "" }, "expires")}>
                Do not expire
              </button>
            )}
          </>
        ) : (
          <p>
            <b>Until</b>
            <br />
            {until ? "the next value" : "without end"}
          </p>
        )}
      </div>
      {data.change.allowed && (snippet.values?.length ?? 0) > 1 && (
        <button
          type="button"
          className={`plain underlined ${classes.remove}`}
          aria-label={`Remove what it says ${name}`}
          onClick={() => edit({ kind: "remove-snippet-value", id: value.id }, `values/${value.id}`)}
        >
          Remove
        </button>
      )}
    </div>
  );
}

interface InputProps {
  id: string;
  label: string;
  value: FieldValue;
  disabled: boolean;
  onChange: (value: FieldValue) => void;
}

function ValueInput({ id, label, value, disabled, onChange }: InputProps) {
  switch (value.kind) {
    case "prose":
      return disabled ? (
        <p>
          <b>{label}</b>
          <br />
          {(value.text.paragraphs ?? [])
            .flatMap((p) => p.runs ?? [])
            .map((r) => r.text)
            .join("")}
        </p>
      ) : (
        <ProseField
          id={id}
          label={label}
          value={value.text}
          note=""
          asked={0}
          oneParagraph
          lang="en-GB"
          onChange={(text) => onChange({ kind: "prose", text })}
        />
      );
    case "link":
      return (
        <TextInput
          label={label}
          placeholder="https://"
          value={value.href}
          disabled={disabled}
          onChange={(e) => onChange({ kind: "link", href: e.currentTarget.value.trim() })}
        />
      );
    case "words":
      return (
        <TextInput
          label={label}
          inputMode="decimal"
          placeholder="12.50"
          value={value.text}
          disabled={disabled}
          onChange={(e) => onChange({ kind: "words", text: e.currentTarget.value.trim() })}
        />
      );
    case "moment": {
      const [day = "", time = ""] = value.start.split("T");
      const set = (nextDay: string, nextTime: string) =>
        onChange({ ...value, start: nextDay && nextTime ? `${nextDay}T${nextTime}` : nextDay });
      return (
        <div className={classes.moment}>
          <DayField label={label} value={day} disabled={disabled} onChange={(next) => set(next, time)} />
          <TextInput
            label="Time"
            placeholder="09:30"
            inputMode="numeric"
            value={time}
            disabled={disabled || !day}
            onChange={(e) => set(day, e.currentTarget.value)}
          />
        </div>
      );
    }
    case "picture":
      return (
        <PictureField
          label={label}
          picture={value.picture}
          asked={0}
          note=""
          onChoose={(chosen) => onChange({ kind: "picture", picture: chosen.id })}
          onTakeOut={() => onChange({ kind: "picture", picture: "" })}
        />
      );
    default:
      return null;
  }
}
