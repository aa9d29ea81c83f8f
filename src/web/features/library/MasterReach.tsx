import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { numberOf, pluralOf } from "../../shared/format";
import { ReachBreaks } from "../../shared/ReachBreaks";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { BeforeAfter } from "../emails/BeforeAfter";

/** What uses a template or saved row, and which emails its release would break once they take it; each before and after. */
export function MasterReach({ desk, room }: { desk: Desk; room: "templates" | "rows" }) {
  const uses = useQuery({
    queryKey: ["uses", room, desk.id, "reach"],
    queryFn: () => ask(api.GET(`/api/${room}/{id}/uses` as "/api/templates/{id}/uses", { params: { path: { id: desk.id } } })),
  });
  if (!uses.data || (uses.data.emails === 0 && uses.data.uses.length === 0)) {
    return <p className="soft">{uses.data ? "Nothing uses it yet, so nothing changes." : "Looking for what uses it …"}</p>;
  }
  const masters = uses.data.uses.filter((u) => u.kind !== "email");
  return (
    <section aria-label="What the release reaches" className={classes.reach}>
      <ul>
        <li>
          <b>{numberOf(uses.data.emails)}</b> {pluralOf(uses.data.emails, "email uses", "emails use")} it: each that is not handed off
          waits, and keeps its release until someone takes the update
        </li>
        {masters.length > 0 && (
          <li>
            <b>{numberOf(masters.length)}</b> {pluralOf(masters.length, "template or row waits", "templates and rows wait")}, and the emails
            made from them: {masters.map((m) => m.name).join(", ")}
          </li>
        )}
        {uses.data.emails > 0 && (
          <li>
            <ReachBreaks
              room={room}
              id={desk.id}
              version={`${desk.revision}.${desk.about?.release ?? 0}`}
              more={(email) => <Proofs room={room} id={desk.id} email={email} />}
            />
          </li>
        )}
      </ul>
    </section>
  );
}

/** The email as it is, and as it would be; drawn once it is asked for. */
function Proofs({ room, id, email }: { room: string; id: string; email: string }) {
  const [open, setOpen] = useState(false);
  return open ? (
    <BeforeAfter
      before={{ name: "As it is", src: `/api/emails/${email}/html?proof=true` }}
      after={{ name: "With this release", src: `/api/${room}/${id}/reach/${email}/html` }}
    />
  ) : (
    <button type="button" className="plain underlined" onClick={() => setOpen(true)}>
      Before and after
    </button>
  );
}
