import { Button, Checkbox, Modal } from "@mantine/core";
import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { WaitingUpdate } from "../../api/types";
import { countOf, numberOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { toggled } from "../../shared/useLiveField";
import classes from "./UpdatesDialog.module.css";

interface Props {
  /** The template or saved row that was released; undefined: whatever one's own emails are made from. */
  of?: { id: string; name: string };
  onClose: () => void;
}

const states = { draft: "draft", "in-review": "in review", approved: "approved", "handed-off": "handed off" };

/** So many are sent at once: how far it is is seen, and it can be stopped. */
const atOnce = 10;

/** Emails that could take newer releases: what that would mean for each, and taking them together. */
export default function UpdatesDialog({ of, onClose }: Props) {
  const cache = useQueryClient();
  const waiting = useInfiniteQuery({
    queryKey: ["updates", of?.id],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) => ask(api.GET("/api/updates", { params: { query: { of: of?.id, after: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchOnMount: "always",
    gcTime: 0,
  });
  const emails = waiting.data?.pages.flatMap((p) => p.emails) ?? [];
  // What loses nothing is chosen from the start; the rest is chosen by whoever has looked.
  const [left, setLeft] = useState<string[]>([]);
  const [added, setAdded] = useState<string[]>([]);
  const [told, setTold] = useState<Record<string, string>>({});
  const [progress, setProgress] = useState<{ done: number; all: number }>();
  const stopped = useRef(false);
  const isCalm = ({ update }: WaitingUpdate) => update.aside.length === 0 && update.come.length === 0;
  const open = emails.filter((e) => e.update.allowed.allowed && told[e.id] !== "");
  const chosen = open.filter((e) => (isCalm(e) ? !left.includes(e.id) : added.includes(e.id)));

  const take = async () => {
    stopped.current = false;
    const all = chosen.map((e) => ({ id: e.id, revision: e.revision, edit: newId() }));
    setProgress({ done: 0, all: all.length });
    try {
      for (let at = 0; at < all.length && !stopped.current; at += atOnce) {
        const some = all.slice(at, at + atOnce);
        const taken = await ask(api.POST("/api/updates", { body: some }));
        setTold((former) => ({ ...former, ...Object.fromEntries(taken.map((t) => [t.id, t.problem ?? ""])) }));
        setProgress({ done: at + some.length, all: all.length });
      }
    } catch (fault) {
      setTold((former) => ({ ...former, all: (fault as Error).message }));
    }
    setProgress(undefined);
    await cache.invalidateQueries({ queryKey: ["home"] });
  };

  const taken = Object.entries(told).filter(([id, problem]) => id !== "all" && problem === "").length;
  return (
    <Modal
      opened
      onClose={onClose}
      title={of ? `Emails on an older release of ${of.name}` : "Your emails on older releases"}
      size={860}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      <Pending query={waiting} what="What waits" />
      {waiting.data && emails.length === 0 && !waiting.hasNextPage && <p>Every email stands on the newest release.</p>}
      {told.all && <p role="alert">■ {told.all} What was taken stays taken; look again and go on.</p>}
      {(emails.length > 0 || waiting.hasNextPage) && (
        <>
          <p className="soft">
            Chosen are those in which everything keeps its place and no finding is new. Each can be taken back in its own history.
          </p>
          <ul className={classes.emails}>
            {emails.map((email) => (
              <li key={email.id}>
                <Checkbox
                  aria-label={email.name}
                  disabled={progress !== undefined || !open.includes(email)}
                  checked={told[email.id] === "" || chosen.includes(email)}
                  onChange={() => (isCalm(email) ? setLeft(toggled(left, email.id)) : setAdded(toggled(added, email.id)))}
                />
                <div>
                  <Link to={`/emails/${email.id}`}>{email.name}</Link>{" "}
                  <span className="soft">
                    {states[email.state]}, {email.by}
                  </span>
                  <Meaning email={email} told={told[email.id]} />
                </div>
              </li>
            ))}
          </ul>
          {waiting.hasNextPage && (
            <button type="button" className="plain underlined" disabled={waiting.isFetching} onClick={() => waiting.fetchNextPage()}>
              Show more
            </button>
          )}
          <div className={classes.acts}>
            {progress ? (
              <>
                <progress aria-label="Taking the updates" value={progress.done} max={progress.all} />
                <span role="status">
                  {numberOf(progress.done)} of {numberOf(progress.all)}
                </span>
                <Button
                  variant="default"
                  onClick={() => {
                    stopped.current = true;
                  }}
                >
                  Stop
                </Button>
              </>
            ) : (
              <Button disabled={chosen.length === 0} onClick={take}>
                Take the update in {countOf(chosen.length, "email")}
              </Button>
            )}
            {taken > 0 && <span role="status">{countOf(taken, "email is", "emails are")} up to date now.</span>}
          </div>
        </>
      )}
    </Modal>
  );
}

/** What taking it means for one: what it would lose its place, which findings come and go, or why it cannot. */
function Meaning({ email: { update, state }, told }: { email: WaitingUpdate; told?: string }) {
  if (told !== undefined) {
    return told === "" ? <p>✓ Up to date</p> : <p role="alert">■ {told}</p>;
  }
  return (
    <>
      <p>
        {[...new Set(update.newer.map((n) => `${n.what}, release ${n.from} to ${n.to}${n.required ? ", must be taken" : ""}`))].join("; ")}
        {state === "approved" && ". It is a draft again then, and approved anew"}
      </p>
      {update.aside.map((aside) => (
        <p key={aside.key}>
          ▲ Loses its place: {aside.where}. {aside.why}
        </p>
      ))}
      {update.come.map((finding) => (
        <p key={finding}>▲ New: {finding}</p>
      ))}
      {!update.allowed.allowed && <p>{update.allowed.reason}</p>}
    </>
  );
}
