import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { ChangeList } from "./ChangeList";
import classes from "./ReleasePanel.module.css";
import { useRoom } from "./RoomContext";

/** Every release with its note; what one changed, and the way back to it as a new one. */
export function ReleaseHistory({ onRestored }: { onRestored: (number: number) => void }) {
  const { style } = useRoom();
  const [listed, setListed] = useState(false);
  const [open, setOpen] = useState<number>();
  const releases = useQuery({
    queryKey: ["style-releases", style.id, style.release],
    enabled: listed,
    queryFn: () => ask(api.GET("/api/house-styles/{id}/releases", { params: { path: { id: style.id } } })),
  });
  return (
    <div className={classes.history}>
      <button type="button" className="plain underlined" aria-expanded={listed} onClick={() => setListed(!listed)}>
        Release history
      </button>
      {listed && (
        <ol>
          {releases.data?.map((release) => (
            <li key={release.number}>
              <button
                type="button"
                className="plain"
                aria-expanded={open === release.number}
                onClick={() => setOpen(open === release.number ? undefined : release.number)}
              >
                <b>{release.number}</b> {release.note}
                <span className="soft">
                  {" "}
                  {release.author}, {new Date(release.at).toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric" })}
                </span>
              </button>
              {open === release.number && <Release number={release.number} onRestored={onRestored} />}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

function Release({ number, onRestored }: { number: number; onRestored: (number: number) => void }) {
  const { style, editAll } = useRoom();
  const release = useQuery({
    queryKey: ["style-release", style.id, number],
    queryFn: () => ask(api.GET("/api/house-styles/{id}/releases/{number}", { params: { path: { id: style.id, number } } })),
  });
  if (!release.data) {
    return null;
  }
  return (
    <>
      <ChangeList changes={release.data.changes} />
      {style.mayEdit && (number < style.release || style.changes > 0) && (
        <button
          type="button"
          className="plain underlined"
          onClick={() => {
            editAll([{ kind: "restore-house-style", contents: release.data.contents }], "");
            onRestored(number);
          }}
        >
          Put the draft back to release {number}
        </button>
      )}
    </>
  );
}
