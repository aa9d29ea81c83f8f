import { useEffect, useRef } from "react";
import { useDeskContext } from "../../useDesk";
import classes from "./fields.module.css";
import { notesOf } from "./notesOf";

interface Props {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  disabled?: boolean;
  type?: "text" | "url";
  placeholder?: string;
  /** Counts up when the focus is asked for; 0: it is not. */
  asked?: number;
  caret?: number;
  broken?: boolean;
  /** A figure at the end of the label's line. */
  note?: string;
  /** What a brand variable that stands here comes to. */
  comesTo?: string;
}

/** One ruled line to write on. Grows downwards where the words need more. */
export function LineInput({
  id,
  label,
  value,
  onChange,
  disabled,
  type = "text",
  placeholder,
  asked = 0,
  caret,
  broken,
  note,
  comesTo,
}: Props) {
  const { store } = useDeskContext();
  const refers = comesTo !== undefined && /^\{.*\}$/.test(value);
  const input = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    if (asked > 0 && input.current) {
      input.current.focus();
      const at = caret ?? input.current.value.length;
      input.current.setSelectionRange(at, at);
    }
  }, [asked, caret]);
  return (
    <div className={classes.field}>
      <label htmlFor={id} className={classes.label}>
        <span>{label}</span>
        <span className={classes.figure} data-broken={broken}>
          {note}
        </span>
      </label>
      <textarea
        id={id}
        ref={input}
        rows={1}
        className={classes.line}
        data-broken={broken}
        value={value}
        disabled={disabled}
        inputMode={type === "url" ? "url" : undefined}
        spellCheck={type !== "url"}
        lang={type === "url" ? undefined : store.snapshot().desk?.language}
        placeholder={placeholder}
        onChange={(e) => onChange(e.currentTarget.value.replace(/[\r\n]+/g, " "))}
        aria-invalid={broken || undefined}
        aria-describedby={refers ? `${id}-comes-to ${notesOf(id)}` : notesOf(id)}
      />
      {refers && (
        <p id={`${id}-comes-to`} className={classes.small}>
          A brand variable, now {comesTo || "empty"}
        </p>
      )}
    </div>
  );
}
