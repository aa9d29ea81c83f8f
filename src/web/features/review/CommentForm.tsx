import { Button, Textarea } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, type KeyboardEvent, useRef, useState } from "react";
import { queries } from "../../api/queries";
import classes from "./ReviewRoom.module.css";
import { useKeptText } from "./useKeptText";

interface Props {
  /** Under which what is typed is kept until it is sent. */
  keptAs: string;
  label: string;
  act: string;
  busy: boolean;
  fault?: string;
  focused?: boolean;
  onSend: (text: string, mentions: string[], done: () => void) => void;
  onCancel?: () => void;
}

/** A few words about an email; "@" calls somebody to it. */
export function CommentForm({ keptAs, label, act, busy, fault, focused, onSend, onCancel }: Props) {
  const [text, setText] = useKeptText(keptAs);
  const people = useQuery(queries.people);
  const [chosen, setChosen] = useState(0);
  const area = useRef<HTMLTextAreaElement>(null);
  const begun = /@([\p{L}' -]{0,30})$/u.exec(text.slice(0, area.current?.selectionStart ?? text.length));
  const offers = begun
    ? (people.data ?? []).filter((p) => p.name.toLowerCase().startsWith((begun[1] ?? "").toLowerCase()) && p.name !== begun[1]).slice(0, 5)
    : [];
  const call = (name: string) => {
    const end = area.current?.selectionStart ?? text.length;
    const from = end - (begun?.[0].length ?? 0);
    setText(`${text.slice(0, from)}@${name} ${text.slice(end)}`);
    setChosen(0);
    requestAnimationFrame(() => {
      area.current?.focus();
      area.current?.setSelectionRange(from + name.length + 2, from + name.length + 2);
    });
  };
  const send = (event?: FormEvent) => {
    event?.preventDefault();
    const mentions = (people.data ?? []).filter((p) => text.includes(`@${p.name}`)).map((p) => p.id);
    if (text.trim()) {
      onSend(text, mentions, () => setText(""));
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const offer = offers[chosen];
    if (offer && (event.key === "Enter" || event.key === "Tab") && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      call(offer.name);
    } else if (offers.length > 0 && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      event.preventDefault();
      setChosen((chosen + (event.key === "ArrowDown" ? 1 : offers.length - 1)) % offers.length);
    } else if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
      send();
    } else if (event.key === "Escape" && onCancel) {
      event.stopPropagation();
      onCancel();
    }
  };
  return (
    <form className={classes.form} onSubmit={send}>
      <Textarea
        ref={area}
        label={label}
        placeholder="@ calls a person"
        autosize
        minRows={1}
        maxRows={8}
        maxLength={4000}
        data-autofocus={focused}
        autoFocus={focused}
        value={text}
        error={fault}
        onChange={(e) => setText(e.currentTarget.value)}
        onKeyDown={onKeyDown}
      />
      {offers.length > 0 && (
        <ul className={classes.offers} aria-label="People to call">
          {offers.map((offer, at) => (
            <li key={offer.id}>
              <button type="button" className="plain" data-chosen={at === chosen} onClick={() => call(offer.name)}>
                {offer.name}
              </button>
            </li>
          ))}
        </ul>
      )}
      {(text.trim() || onCancel) && (
        <p className={classes.formActs}>
          <Button type="submit" size="xs" disabled={!text.trim()} loading={busy}>
            {act}
          </Button>
          {onCancel && (
            <button type="button" className="plain underlined" onClick={onCancel}>
              Cancel
            </button>
          )}
        </p>
      )}
    </form>
  );
}
