import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { VariableEntry, VariableUse } from "../../api/types";
import { countOf } from "../../shared/format";
import { Thumbnail } from "../../shared/Thumbnail";
import { useRoom } from "./RoomContext";
import classes from "./ValueList.module.css";
import { places } from "./VariableList";
import { VariableOverrides } from "./VariableOverrides";

/** Every place that refers to a variable, a click away. */
export function VariableUses({ entry }: { entry: VariableEntry }) {
  const [listed, setListed] = useState(false);
  return (
    <div>
      <button type="button" className="plain underlined" aria-expanded={listed} onClick={() => setListed(!listed)}>
        Used in {places(entry.places)}
      </button>
      {listed && <UsesList entry={entry} />}
    </div>
  );
}

// Only where it is listed is there anything to ask: a colour that is dragged makes a new revision many times a second.
function UsesList({ entry }: { entry: VariableEntry }) {
  const { style, show } = useRoom();
  const [row, setRow] = useState<string>();
  const key = entry.variable.key;
  const uses = useQuery({
    queryKey: ["variable-uses", style.id, key, style.revision],
    placeholderData: keepPreviousData,
    queryFn: () => askUses(style.id, key),
  });
  const go = (use: VariableUse) => {
    if (use.kind === "style") {
      const [name, property] = use.id.split("/");
      show({ tab: "styles", style: name, property });
    } else if (use.kind === "variable") {
      show({ tab: "variables", variable: use.id });
    } else {
      setRow(row === use.id ? undefined : use.id);
    }
  };
  return (
    uses.data && (
      <>
        <ul className={classes.uses}>
          {uses.data.places.map((use) => (
            <li key={`${use.kind}${use.id}${use.place}`}>
              {use.kind === "template" ? (
                <Link to="/templates">{use.name}</Link>
              ) : (
                <button type="button" className="plain underlined" onClick={() => go(use)}>
                  {use.name}
                </button>
              )}
              <span className="soft"> {use.place ? `${use.kind}, ${use.place}` : use.kind}</span>
              {row === use.id && (
                <Thumbnail
                  subject={{ kind: "row", id: use.id, draft: false }}
                  version=""
                  width={270}
                  height={150}
                  fitted
                  label={`${use.name}, as it looks`}
                />
              )}
            </li>
          ))}
          {uses.data.emails.map((email) => (
            <li key={email.id}>
              <Link to={`/emails/${email.id}`}>{email.name}</Link> <span className="soft">email, in its own words</span>
            </li>
          ))}
          {uses.data.emailCount > uses.data.emails.length && (
            <li className="soft">and {countOf(uses.data.emailCount - uses.data.emails.length, "more email", "more emails")}</li>
          )}
          {uses.data.places.length + uses.data.emails.length === 0 && <li className="soft">Nothing refers to it.</li>}
          {uses.data.unread > 0 && (
            <li className="soft">
              {countOf(uses.data.unread, "document is", "documents are")} still being read after the update; there may be more.
            </li>
          )}
        </ul>
        <VariableOverrides entry={entry} narrowed={uses.data.narrowed} />
      </>
    )
  );
}

const askUses = (id: string, key: string) => ask(api.GET("/api/house-styles/{id}/variables/{key}/uses", { params: { path: { id, key } } }));
