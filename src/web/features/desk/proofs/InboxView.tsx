import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../../api/client";
import type { components } from "../../../api/schema";
import type { DeskKind } from "../askDesk";
import classes from "./InboxView.module.css";

type Line = components["schemas"]["InboxLine"];
type Inbox = components["schemas"]["DraftInbox"];

/** The email in the list of an inbox, as a phone and a desktop would cut it. */
export function InboxView({ kind, id, revision, read }: { kind: DeskKind; id: string; revision: number; read?: Inbox }) {
  const inbox = useQuery({
    queryKey: ["inbox", kind, id, revision],
    enabled: read === undefined,
    placeholderData: (former) => former,
    queryFn: () => ask(api.GET(`/api/${kind}/{id}/draft/inbox` as "/api/emails/{id}/draft/inbox", { params: { path: { id } } })),
  });
  // As one reader gets it, or with the samples of all fields.
  const shown = read ?? inbox.data;
  if (!shown) {
    return null;
  }
  const { phone, desktop } = shown;
  return (
    <div className={classes.view}>
      <h3>On a phone</h3>
      <div className={classes.phone} aria-label="On a phone" role="group">
        <b>{phone.sender.text}</b>
        <span>{phone.subject.text || <i className="soft">No subject</i>}</span>
        <span className="soft">{phone.preheader.text}</span>
      </div>
      <Cuts line={phone} />
      <h3>On a desktop</h3>
      <div className={classes.desktop} aria-label="On a desktop" role="group">
        <b>{desktop.sender.text}</b>
        <span>
          {desktop.subject.text || <i className="soft">No subject</i>} <span className="soft">{desktop.preheader.text}</span>
        </span>
      </div>
      <Cuts line={desktop} />
      <p className="soft">Every inbox cuts at a length of its own; these are usual ones.</p>
    </div>
  );
}

function Cuts({ line }: { line: Line }) {
  const cut = [line.sender.cut && "the sender", line.subject.cut && "the subject", line.preheader.cut && "the preheader"].filter(Boolean);
  return (
    <p className={classes.cuts}>
      {cut.length > 0 ? `Cut: ${cut.join(", ")}.` : "Nothing is cut."}
      {line.fromBody && " There is no preheader: inboxes take the first words of the body."}
    </p>
  );
}
