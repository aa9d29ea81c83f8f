import { Button, Checkbox, Modal, SegmentedControl, Textarea, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { DayField } from "../../shared/DayField";
import type { Desk } from "../desk/DeskStore";
import classes from "../desk/dialogs.module.css";
import { useDeskContext } from "../desk/useDesk";
import { BeforeAfter } from "../emails/BeforeAfter";
import { MasterReach } from "./MasterReach";

interface Props {
  desk: Desk;
  /** An older release that is made again as the newest; undefined: the draft is released. */
  again?: number;
  onClose: () => void;
}

/** Makes a numbered release of a template or saved row, now or at a moment, with a note of what changed. */
export default function ReleaseDialog({ desk, again, onClose }: Props) {
  const { store } = useDeskContext();
  const cache = useQueryClient();
  const [note, setNote] = useState(again ? `Back to release ${again}` : "");
  const [required, setRequired] = useState(false);
  const [when, setWhen] = useState<"now" | "later">("now");
  const [day, setDay] = useState("");
  const [time, setTime] = useState("09:00");
  const latest = desk.about?.release ?? 0;
  const number = latest + 1;
  const options = { params: { path: { id: desk.id } }, headers: { "If-Match": `"${desk.revision}"` } };
  const release = useMutation({
    mutationFn: async () => {
      if (when === "later") {
        const at = momentOf(day, time);
        if (!at) {
          throw new Error("Say a day and a time, such as 5 Dec 2026 and 09:00.");
        }
        await ask(
          api.PUT(`/api/${store.kind}/{id}/planned-release` as "/api/templates/{id}/planned-release", {
            ...options,
            body: { note, required, at },
          }),
        );
      } else {
        await ask(
          api.POST(`/api/${store.kind}/{id}/releases` as "/api/templates/{id}/releases", {
            ...options,
            body: { note, required, again: again ?? null },
          }),
        );
      }
    },
    onSuccess: async () => {
      await Promise.all([store.refresh(), cache.invalidateQueries({ queryKey: ["planned-release", desk.id] })]);
      onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    release.mutate();
  };
  const html = (of: number) => `/api/${store.kind}/${desk.id}/releases/${of}/html`;
  return (
    <Modal
      opened
      onClose={onClose}
      title={again ? `Release ${number} of ${desk.name}: back to ${again}` : `Release ${number} of ${desk.name}`}
      size={820}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      <form onSubmit={submit} className={classes.form}>
        <p>
          {again
            ? `Release ${number} says what release ${again} said. The draft stays as it is, so that what you were at can be mended and released after it.`
            : desk.kind === "row"
              ? "New emails and templates get this release. What uses an earlier one keeps it until someone takes the update."
              : "New emails start from this release. Emails made before keep theirs until someone takes the update."}
        </p>
        {again ? (
          <BeforeAfter
            before={{ name: `Release ${latest}, the newest now`, src: html(latest) }}
            after={{ name: `Release ${again}, the newest then`, src: html(again) }}
          />
        ) : (
          number > 1 && <MasterReach desk={desk} room={store.kind === "rows" ? "rows" : "templates"} />
        )}
        <Textarea
          data-autofocus
          label="What changed"
          required
          maxLength={500}
          autosize
          minRows={2}
          value={note}
          onChange={(e) => setNote(e.currentTarget.value)}
          error={release.error?.message}
        />
        <Checkbox
          label="Required update: emails on an older release cannot go out"
          checked={required}
          onChange={(e) => setRequired(e.currentTarget.checked)}
        />
        {!again && (
          <fieldset className={classes.when}>
            <legend className="only-heard">When</legend>
            <SegmentedControl
              aria-label="When"
              data={[
                { value: "now", label: "Now" },
                { value: "later", label: "At a moment" },
              ]}
              value={when}
              onChange={(v) => setWhen(v as typeof when)}
            />
            {when === "later" && (
              <>
                <DayField label="On" clearable={false} value={day} onChange={setDay} />
                <TextInput label="At" w={90} inputMode="numeric" value={time} onChange={(e) => setTime(e.currentTarget.value)} />
                <p className="soft">By the clock of this computer. A draft that is changed until then is not released, and you are told.</p>
              </>
            )}
          </fieldset>
        )}
        <Button type="submit" loading={release.isPending}>
          {when === "later" ? "Plan the release" : "Release"}
        </Button>
      </form>
    </Modal>
  );
}

/** The moment that a day and a time here are, as it is sent; undefined: they are none. */
function momentOf(day: string, time: string): string | undefined {
  const at = /^([01]?\d|2[0-3]):[0-5]\d$/.test(time.trim()) && day ? new Date(`${day}T${time.trim().padStart(5, "0")}`) : undefined;
  return at && !Number.isNaN(at.getTime()) ? at.toISOString() : undefined;
}
