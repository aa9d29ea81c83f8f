import { Button, Modal, Textarea } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { type ClipboardEvent, useState } from "react";
import { api, ask } from "../../api/client";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { CopyPlanView } from "./CopyPlanView";

/** A whole copy document, pasted, laid out onto the fields of the email in order. */
export default function PasteDocumentDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState<string>();
  const plan = useMutation({
    mutationFn: (pasted: { html?: string; text?: string }) =>
      ask(api.POST("/api/emails/{id}/copy", { params: { path: { id: desk.id } }, body: { html: null, text: null, ...pasted } })),
  });
  // Markup says more than the words alone: what is a heading, a list, a link.
  const onPaste = (event: ClipboardEvent) => {
    const html = event.clipboardData.getData("text/html");
    if (html) {
      event.preventDefault();
      setText(event.clipboardData.getData("text/plain"));
      plan.mutate({ html });
    }
  };
  const takeCopied = async () => {
    try {
      const [copied] = await navigator.clipboard.read();
      const read = (type: string) => (copied?.types.includes(type) ? copied.getType(type).then((blob) => blob.text()) : undefined);
      const [html, words] = [await read("text/html"), await read("text/plain")];
      setText(words ?? "");
      plan.mutate(html ? { html } : { text: words ?? "" });
    } catch {
      setFault("The browser does not let this page read what was copied. Press Ctrl V in the field instead.");
    }
  };
  return (
    <Modal opened onClose={onClose} title="Paste a document" size={760} closeButtonProps={{ "aria-label": "Close" }}>
      {plan.data ? (
        <div className={classes.form}>
          <button type="button" className="plain underlined" onClick={() => plan.reset()}>
            Paste another
          </button>
          <CopyPlanView plan={plan.data} act="Put it in" onDone={onClose} />
        </div>
      ) : (
        <form
          className={classes.form}
          onSubmit={(event) => {
            event.preventDefault();
            plan.mutate({ text });
          }}
        >
          <p>
            Paste the whole text. Each heading begins a row; lines that begin with “Subject:” and “Preheader:” go to subject and sender; a
            line that is only a link becomes a button. You see where everything goes before it is put in.
          </p>
          <Textarea
            data-autofocus
            classNames={{ input: classes.copy }}
            aria-label="Document"
            rows={14}
            value={text}
            onPaste={onPaste}
            onChange={(e) => setText(e.currentTarget.value)}
          />
          {plan.error && <p role="alert">{plan.error.message}</p>}
          {fault && <p role="alert">{fault}</p>}
          <Button variant="default" onClick={takeCopied}>
            Paste from the clipboard
          </Button>
          <Button type="submit" loading={plan.isPending} disabled={!text.trim()}>
            Preview
          </Button>
        </form>
      )}
    </Modal>
  );
}
