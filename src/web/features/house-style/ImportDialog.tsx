import { Button, Modal, Textarea } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { FileDrop } from "../../shared/FileDrop";
import classes from "./dialogs.module.css";
import { ImportTable } from "./ImportTable";
import { useRoom } from "./RoomContext";

/** Brings in a website's CSS or a file of design tokens: what it would do is shown before it happens. */
export default function ImportDialog({ onClose }: { onClose: () => void }) {
  const { style } = useRoom();
  const [text, setText] = useState("");
  const plan = useMutation({
    mutationFn: (source: string) =>
      ask(
        api.POST("/api/house-styles/{id}/import", {
          params: { path: { id: style.id } },
          body: { format: source.trimStart().startsWith("{") ? "tokens" : "css", text: source },
        }),
      ),
  });
  const read = async (chosen?: File | null) => {
    if (chosen) {
      const source = await chosen.text();
      setText(source.length > 20000 ? "" : source);
      plan.mutate(source);
    }
  };
  return (
    <Modal opened onClose={onClose} title="Import" size={plan.data ? 980 : 620} closeButtonProps={{ "aria-label": "Close" }}>
      {plan.data ? (
        <ImportTable key={plan.submittedAt} plan={plan.data} onDone={onClose} onBack={() => plan.reset()} />
      ) : (
        <FileDrop label="File to import" accept={["text/css", "application/json"]} onFiles={([chosen]) => void read(chosen)}>
          {(choose) => (
            <div className={classes.form}>
              <Textarea
                label="The website's CSS, or design tokens"
                description="Custom properties in :root become brand variables; rules of body, headings, links and buttons say what they style. Design tokens are JSON. Nothing changes until you have seen it."
                rows={12}
                data-autofocus
                value={text}
                onChange={(e) => setText(e.currentTarget.value)}
                placeholder={":root {\n  --engine-green: #1f3a34;\n  --body-size: 16px;\n}"}
                classNames={{ input: classes.code }}
              />
              {plan.error && (
                <p role="alert" className={classes.fault}>
                  ■ {plan.error.message}
                </p>
              )}
              <p className={classes.row}>
                <Button onClick={() => plan.mutate(text)} disabled={!text.trim()} loading={plan.isPending}>
                  Preview
                </Button>
                <button type="button" className="plain underlined" onClick={choose}>
                  or choose a file
                </button>
              </p>
            </div>
          )}
        </FileDrop>
      )}
    </Modal>
  );
}
