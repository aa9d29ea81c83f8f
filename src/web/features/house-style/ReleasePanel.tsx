import { Button, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import type { HouseStyle } from "../../api/types";
import classes from "./ReleasePanel.module.css";

/** What a release of the draft would do, before it is made, and the release itself. */
export function ReleasePanel({ style }: { style: HouseStyle }) {
  const queries = useQueryClient();
  const [note, setNote] = useState("");
  const reach = useQuery({
    queryKey: ["reach", style.id, style.revision, style.release],
    enabled: style.changes > 0,
    placeholderData: (former: Awaited<ReturnType<typeof askReach>> | undefined) => former,
    queryFn: () => askReach(style.id),
  });
  const release = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/house-styles/{id}/releases", {
          params: { path: { id: style.id } },
          headers: { "If-Match": `"${style.revision}"` },
          body: { note },
        }),
      ),
    onSuccess: async () => {
      setNote("");
      await Promise.all(["house-style", "house-styles", "emails"].map((key) => queries.invalidateQueries({ queryKey: [key] })));
    },
  });
  if (style.changes === 0) {
    return (
      <section className={classes.panel}>
        <h2>Release {style.release} is in use</h2>
        <p className="soft">
          {release.isSuccess
            ? "Released. Every email that is not handed off shows it now."
            : "Change a value to see here what the next release would do."}
        </p>
      </section>
    );
  }
  const submit = (event: FormEvent) => {
    event.preventDefault();
    release.mutate();
  };
  const data = reach.data;
  return (
    <section className={classes.panel}>
      <h2>If you release this</h2>
      {data && (
        <ul className={classes.reach}>
          <li>
            <b>{data.follow}</b> {data.follow === 1 ? "email follows" : "emails follow"} at once
          </li>
          <li>
            <b>{data.frozen}</b> {data.frozen === 1 ? "is handed off and stays as it is" : "are handed off and stay as they are"}
          </li>
          <li data-stopped={data.stopped > 0}>
            <b>{data.stopped}</b> {data.stopped === 1 ? "gets a finding that stops it" : "get a finding that stops them"}
            {data.emails
              .filter((e) => e.stops.length > 0)
              .map((e) => (
                <details key={e.id}>
                  <summary>{e.name}</summary>
                  {e.stops.map((stop) => (
                    <p key={stop}>{stop}</p>
                  ))}
                </details>
              ))}
          </li>
        </ul>
      )}
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
          Release {style.release + 1}
        </Button>
      </form>
    </section>
  );
}

const askReach = (id: string) => ask(api.GET("/api/house-styles/{id}/reach", { params: { path: { id } } }));
