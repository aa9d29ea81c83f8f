import { Button, Menu } from "@mantine/core";
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { DeskAbout } from "../../api/types";
import { countOf, dayOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import classes from "../desk/copy/RowSheet.module.css";
import type { Desk } from "../desk/DeskStore";
import { useDeskContext } from "../desk/useDesk";
import { UsesList } from "./UsesList";

const ReleaseDialog = lazily(() => import("./ReleaseDialog"));
const RetireDialog = lazily(() => import("./RetireDialog"));
const UpdatesDialog = lazily(() => import("../emails/UpdatesDialog"));

/** Where it is used, and whether it is offered, shared or taken out. */
export function LibraryStatus({ desk, about }: { desk: Desk; about: DeskAbout }) {
  const { store } = useDeskContext();
  const cache = useQueryClient();
  const [again, setAgain] = useState<number>();
  const [open, setOpen] = useState<"retire" | "updates">();
  const masters = useQuery({ ...queries.masters, enabled: about.heir != null });
  const params = { path: { id: desk.id } };
  const uses = useInfiniteQuery(queries.uses(store.kind === "rows" ? "rows" : "templates", desk.id, desk.revision));
  const releases = useQuery({
    queryKey: ["releases", desk.id, about.release],
    queryFn: () => ask(api.GET(`/api/${store.kind}/{id}/releases` as "/api/templates/{id}/releases", { params })),
    enabled: about.release > 0,
  });
  const stand = useMutation({
    mutationFn: (body: { retired?: boolean; private?: boolean; heir?: string | null }) =>
      ask(
        api.PUT(`/api/${store.kind}/{id}/status` as "/api/templates/{id}/status", {
          params,
          body: { retired: null, private: null, owner: null, heir: null, ...body },
        }),
      ),
    onSuccess: async () => {
      await store.refresh();
      await cache.invalidateQueries({ queryKey: [store.kind] });
    },
  });
  const first = uses.data?.pages[0];
  const used = first ? first.emails + first.uses.filter((u) => u.kind !== "email" && u.id !== desk.id).length : 0;
  return (
    <>
      {/* Above what is still being asked for: a menu that moves as it comes would take a press for another. */}
      <p className={classes.acts}>
        <Menu position="top-start">
          <Menu.Target>
            <Button variant="default" size="xs">
              Status: {about.retired ? "retired" : about.private ? "private" : "shared"}
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            {about.retired ? (
              <Menu.Item onClick={() => stand.mutate({ retired: false })}>Restore</Menu.Item>
            ) : (
              <Menu.Item onClick={() => setOpen("retire")}>
                Retire
                {used > 0 && <span className={classes.small}>{countOf(used, "document goes", "documents go")} on using it</span>}
              </Menu.Item>
            )}
            <Menu.Item onClick={() => stand.mutate({ private: !about.private })}>
              {about.private ? "Share" : "Make private"}
              <span className={classes.small}>{about.private ? "Everyone sees it again" : "Only its owner and the leads see it"}</span>
            </Menu.Item>
            {desk.kind === "template" && (
              <Menu.Item component="a" href={`/api/templates/${desk.id}/file`}>
                Export as a file
              </Menu.Item>
            )}
          </Menu.Dropdown>
        </Menu>
      </p>
      {stand.error && <p role="alert">{stand.error.message}</p>}
      {about.heir && (
        <p className="soft">{masters.data?.find((m) => m.id === about.heir)?.name ?? "Another"} takes its place where it is used.</p>
      )}
      <h3 className={classes.sub}>Where it is used</h3>
      {about.release > 1 && (first?.emails ?? 0) > 0 && (
        <p>
          <button type="button" className="plain underlined" onClick={() => setOpen("updates")}>
            Bring emails up to date
          </button>
        </p>
      )}
      <UsesList of={store.kind === "rows" ? "rows" : "templates"} id={desk.id} revision={desk.revision} />
      {about.release > 0 && <h3 className={classes.sub}>Its releases</h3>}
      <ul className={classes.summary}>
        {releases.data?.map((release) => (
          <li key={release.number}>
            {release.number}: {release.note}{" "}
            <span className="soft">
              {release.author}, {dayOf(release.at)}
            </span>{" "}
            {release.number < about.release && !desk.asAuthor && (
              <button type="button" className="plain underlined" onClick={() => setAgain(release.number)}>
                Go back to release {release.number}
              </button>
            )}
          </li>
        ))}
      </ul>
      {again && <ReleaseDialog desk={desk} again={again} onClose={() => setAgain(undefined)} />}
      {open === "updates" && <UpdatesDialog of={{ id: desk.id, name: desk.name }} onClose={() => setOpen(undefined)} />}
      {open === "retire" && (
        <RetireDialog
          desk={desk}
          onRetire={(heir) => {
            stand.mutate({ retired: true, heir });
            setOpen(undefined);
          }}
          onClose={() => setOpen(undefined)}
        />
      )}
    </>
  );
}
