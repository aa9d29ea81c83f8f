import { Textarea } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../../api/client";
import { useTypedField } from "../../../shared/useLiveField";
import type { DeskKind } from "../askDesk";
import { NotStored } from "../copy/fields/NotStored";
import { useDeskContext } from "../useDesk";
import classes from "./PlainText.module.css";

/** The plain text as it would be sent, and where it may be, written by hand. */
export function PlainText({ kind, id, revision }: { kind: DeskKind; id: string; revision: number }) {
  const { store } = useDeskContext();
  const draft = useQuery({
    queryKey: ["plain-text", kind, id, revision],
    placeholderData: (former) => former,
    queryFn: () => ask(api.GET(`/api/${kind}/{id}/draft/text` as "/api/emails/{id}/draft/text", { params: { path: { id } } })),
  });
  const text = draft.data;
  // It is asked for beside the desk, and may be a moment older than it.
  const [value, setValue, refused] = useTypedField(
    text?.text ?? "",
    "details/plainText",
    (next) => ({ kind: "set-plain-text", value: { text: next, of: text?.of ?? text?.madeOf ?? "" } }),
    undefined,
    text?.revision ?? 0,
  );
  if (!text) {
    return null;
  }
  const makeAnew = () => store.edit({ kind: "set-plain-text", value: null });
  return (
    <div className={classes.sheet}>
      <p className={classes.line}>
        {text.of ? "Written by hand." : "Made from the email."}{" "}
        {text.behind && <b className={classes.behind}>The email has changed since it was written.</b>}
        {text.of && text.write.allowed && (
          <>
            {" "}
            {text.behind && (
              <button
                type="button"
                className="plain underlined"
                onClick={() => store.edit({ kind: "set-plain-text", value: { text: value, of: text.madeOf } })}
              >
                Keep it as written
              </button>
            )}{" "}
            <button type="button" className="plain underlined" onClick={makeAnew}>
              Generate it from the email again
            </button>
          </>
        )}
        {!text.of && kind === "emails" && !text.write.allowed && <span className="soft">{text.write.reason}</span>}
        {!text.of && text.write.allowed && (
          <button
            type="button"
            className="plain underlined"
            onClick={() => store.edit({ kind: "set-plain-text", value: { text: text.made, of: text.madeOf } })}
          >
            Write it by hand
          </button>
        )}
      </p>
      <NotStored reason={refused} />
      {text.of && text.write.allowed ? (
        <Textarea
          aria-label="Plain text"
          classNames={{ input: classes.text }}
          autosize
          minRows={12}
          value={value}
          onChange={(e) => setValue(e.currentTarget.value)}
        />
      ) : (
        <pre className={classes.text}>{text.text}</pre>
      )}
      {text.behind && (
        <details className={classes.made}>
          <summary>Generated from the email as it is now</summary>
          <pre>{text.made}</pre>
        </details>
      )}
    </div>
  );
}
