import { useEffect, useRef } from "react";
import classes from "./fields.module.css";

/** HTML as someone writes it. What is not safe in an email is left out of the proof. */
export function CodeField({
  id,
  label,
  html,
  asked,
  onChange,
}: {
  id: string;
  label: string;
  html: string;
  asked: number;
  onChange: (html: string) => void;
}) {
  const area = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    if (asked > 0) {
      area.current?.focus();
    }
  }, [asked]);
  return (
    <div className={classes.field}>
      <label htmlFor={id} className={classes.label}>
        {label}
      </label>
      <textarea
        id={id}
        ref={area}
        className={classes.code}
        rows={6}
        spellCheck={false}
        value={html}
        onChange={(e) => onChange(e.currentTarget.value)}
      />
      <p className={classes.small}>Scripts, forms, frames, ids and classes are left out.</p>
    </div>
  );
}
