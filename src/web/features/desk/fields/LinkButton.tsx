import { Button, Popover, TextInput } from "@mantine/core";
import type { Editor } from "@tiptap/react";
import { type FormEvent, useState } from "react";
import classes from "./fields.module.css";

/** Sets, changes or takes away the link of the selected words. */
export function LinkButton({ editor, active }: { editor: Editor; active: boolean }) {
  const [opened, setOpened] = useState(false);
  const [href, setHref] = useState("");

  const open = () => {
    setHref(editor.getAttributes("link").href ?? "");
    setOpened(true);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const link = editor.chain().focus().extendMarkRange("link");
    href.trim() ? link.setLink({ href: href.trim() }).run() : link.unsetLink().run();
    setOpened(false);
  };
  return (
    <Popover opened={opened} onChange={setOpened} position="bottom-end" trapFocus returnFocus width={280}>
      <Popover.Target>
        <button
          type="button"
          className={`plain ${classes.tool}`}
          aria-pressed={active}
          onMouseDown={(e) => e.preventDefault()}
          onClick={open}
        >
          <span className="underlined">Link</span>
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <form onSubmit={submit} className={classes.linkForm}>
          <TextInput
            label="Leads to"
            placeholder="https://"
            description="Empty takes the link away."
            value={href}
            onChange={(e) => setHref(e.currentTarget.value)}
            data-autofocus
          />
          <Button type="submit">Set the link</Button>
        </form>
      </Popover.Dropdown>
    </Popover>
  );
}
