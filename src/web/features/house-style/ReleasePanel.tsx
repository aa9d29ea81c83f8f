import { Button, TextInput } from "@mantine/core";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, memo, useState } from "react";
import { api, ask } from "../../api/client";
import type { HouseStyle } from "../../api/types";
import { numberOf, pluralOf } from "../../shared/format";
import { ChangeList } from "./ChangeList";
import { ReachList } from "./ReachList";
import { ReleaseHistory } from "./ReleaseHistory";
import classes from "./ReleasePanel.module.css";
import { useRoom } from "./RoomContext";

/** What a release of the draft would change and touch, before it is made, and the release itself. */
export function ReleasePanel() {
  const { style } = useRoom();
  const [note, setNote] = useState("");
  const [listed, setListed] = useState(false);
  return (
    <section className={classes.panel}>
      {style.changes === 0 ? (
        <>
          <h2>{style.release === 0 ? "Nothing to release yet" : `Release ${style.release} is in use`}</h2>
          <p className="soft">Change a value to see here what the next release would do.</p>
        </>
      ) : (
        <>
          <h2>If you release this</h2>
          <ReachList />
          <button type="button" className="plain underlined" aria-expanded={listed} onClick={() => setListed(!listed)}>
            {pluralOf(style.changes, "See the change", `See all ${numberOf(style.changes)} changes`)}
            {style.release > 0 && ` since release ${style.release}`}
          </button>
          {listed && <Changes style={style} />}
          {style.mayEdit && <ReleaseForm id={style.id} next={style.release + 1} note={note} setNote={setNote} />}
        </>
      )}
      {style.release > 0 && <ReleaseHistory onRestored={(number) => setNote(`Back to release ${number}`)} />}
    </section>
  );
}

// Only where it is listed is there anything to ask: a colour that is dragged makes a new revision many times a second.
function Changes({ style }: { style: HouseStyle }) {
  const changes = useQuery({
    queryKey: ["style-changes", style.id, style.revision, style.release],
    placeholderData: keepPreviousData,
    queryFn: () => askChanges(style.id),
  });
  return changes.data && <ChangeList changes={changes.data} />;
}

interface FormProps {
  id: string;
  next: number;
  note: string;
  setNote: (note: string) => void;
}

const ReleaseForm = memo(function ReleaseForm({ id, next, note, setNote }: FormProps) {
  const cache = useQueryClient();
  const release = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/house-styles/{id}/releases", {
          params: { path: { id } },
          headers: { "If-Match": `"${cache.getQueryData<HouseStyle>(["house-style", id])?.revision}"` },
          body: { note, required: false },
        }),
      ),
    onSuccess: async () => {
      setNote("");
      await Promise.all(
        ["house-style", "house-styles", "style-releases", "emails"].map((key) => cache.invalidateQueries({ queryKey: [key] })),
      );
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    release.mutate();
  };
  return (
    <form onSubmit={submit} className={classes.form}>
      <TextInput
        label="What changed"
        required
        maxLength={500}
        value={note}
        onChange={(e) => setNote(e.currentTarget.value)}
        error={release.error?.message}
      />
      <Button type="submit" loading={release.isPending}>
        Release {next}
      </Button>
    </form>
  );
});

const askChanges = (id: string) => ask(api.GET("/api/house-styles/{id}/changes", { params: { path: { id } } }));
