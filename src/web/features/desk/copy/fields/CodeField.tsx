import { Textarea } from "@mantine/core";
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
      <Textarea
        id={id}
        ref={area}
        label={label}
        description="Scripts, forms, frames, ids and classes are left out."
        inputWrapperOrder={["label", "input", "description"]}
        classNames={{ input: classes.code }}
        autosize
        minRows={6}
        maxRows={30}
        spellCheck={false}
        value={html}
        onChange={(e) => onChange(e.currentTarget.value)}
      />
    </div>
  );
}
