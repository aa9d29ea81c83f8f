import { Button, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { dayOf } from "../../shared/format";
import list from "../../shared/ListRoom.module.css";
import { MailThumbnail } from "../../shared/MailThumbnail";
import { useListFilters } from "../../shared/useListFilters";
import { type Origin, StartDialog } from "./StartDialog";
import classes from "./StartRoom.module.css";

const begun = (origin: Origin, next: boolean): Origin => (origin.kind === "email" ? { ...origin, next } : origin);

/** Where an email begins: a template, or an email there was before. Seen as the desktop and the phone show it. */
export default function StartRoom() {
  const filters = useListFilters();
  const type = filters.of("type");
  const before = filters.of("from") === "email";
  const mine = filters.is("mine");
  const [words, setWords] = useState("");
  const [q] = useDebouncedValue(words, 200);
  const [origin, setOrigin] = useState<Origin>();
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  const recent = filters.is("recent");
  const query = { q: q || undefined, campaignType: type, mine: mine || undefined };
  const paged = {
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page: { next?: string | null }) => page.next ?? undefined,
  };
  const templates = useInfiniteQuery({
    queryKey: ["templates", "start", query, recent],
    enabled: !before,
    ...paged,
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/templates", { params: { query: { ...query, recent: recent || undefined, after: pageParam } } })),
    placeholderData: (former) => former,
  });
  const emails = useInfiniteQuery({
    queryKey: ["emails", "start", query],
    enabled: before,
    ...paged,
    queryFn: ({ pageParam }) => ask(api.GET("/api/emails", { params: { query: { ...query, after: pageParam } } })),
    placeholderData: (former) => former,
  });
  const typeName = (key: string) => types.data?.find((t) => t.key === key)?.name ?? key;
  const offered = before
    ? (emails.data?.pages
        .flatMap((page) => page.emails)
        .map((e) => ({
          id: e.id,
          name: e.name,
          about: `${typeName(e.campaignType)}, ${e.author}, ${dayOf(e.changedAt)}`,
          src: `/api/emails/${e.id}/html?proof=true&revision=${e.revision}`,
          origin: { kind: "email" as const, id: e.id, name: e.name, nextName: e.nextName },
        })) ?? [])
    : (templates.data?.pages
        .flatMap((page) => page.templates)
        .filter((t) => t.release > 0 && t.state !== "retired")
        .map((t) => ({
          id: t.id,
          name: t.name,
          about: `${typeName(t.campaignType)}. ${t.description}`,
          src: `/api/templates/${t.id}/html?release=${t.release}`,
          origin: { kind: "template" as const, id: t.id, name: t.name },
        })) ?? []);
  const pages = before ? emails : templates;

  return (
    <div className={list.room}>
      <nav className={list.types} aria-label="Campaign types">
        <h1>Start an email</h1>
        {[undefined, ...(types.data ?? [])].map((t) => (
          <button
            key={t?.key ?? ""}
            type="button"
            className={`plain ${list.type}`}
            aria-current={type === t?.key}
            onClick={() => filters.set("type", t?.key)}
          >
            {t?.name ?? "All campaign types"}
          </button>
        ))}
      </nav>
      <section className={list.middle} aria-label="Templates and earlier emails">
        <div className={classes.bar}>
          <fieldset className={classes.from} aria-label="It begins with">
            <button type="button" className="plain" aria-pressed={!before} onClick={() => filters.set("from")}>
              From a template
            </button>
            <button type="button" className="plain" aria-pressed={before} onClick={() => filters.set("from", "email")}>
              From an earlier email
            </button>
          </fieldset>
          <TextInput
            aria-label="Find"
            placeholder={before ? "Find by the words inside" : "Find by name, use or tag"}
            value={words}
            onChange={(e) => setWords(e.currentTarget.value)}
          />
          <label className={classes.mine}>
            <input type="checkbox" checked={mine} onChange={(e) => filters.set("mine", e.currentTarget.checked)} />
            Only my own
          </label>
          {!before && (
            <label className={classes.mine}>
              <input type="checkbox" checked={recent} onChange={(e) => filters.set("recent", e.currentTarget.checked)} />
              Recently used
            </label>
          )}
        </div>
        {pages.data && !pages.hasNextPage && offered.length === 0 && (
          <p className={classes.empty}>
            {words || mine || type || recent
              ? "Nothing is like that. Ask for less, or look among all campaign types."
              : "There is nothing to begin with yet."}
          </p>
        )}
        <div className={classes.shelf}>
          {offered.map((one) => (
            <article key={one.id} aria-label={one.name} className={classes.one}>
              <div className={classes.looks}>
                <MailThumbnail src={one.src} width={200} height={250} label={`${one.name}, on the desktop`} />
                <MailThumbnail src={one.src} width={117} height={250} screen={375} label={`${one.name}, on the phone`} />
              </div>
              <h2>{one.name}</h2>
              <p className="soft">{one.about}</p>
              <p className={classes.acts}>
                {one.origin.kind === "email" ? (
                  <>
                    <Button variant="default" onClick={() => setOrigin(begun(one.origin, true))}>
                      Next issue
                    </Button>
                    <button type="button" className="plain underlined" onClick={() => setOrigin(begun(one.origin, false))}>
                      Duplicate
                    </button>
                  </>
                ) : (
                  <Button variant="default" onClick={() => setOrigin(one.origin)}>
                    Start from this
                  </Button>
                )}
              </p>
            </article>
          ))}
        </div>
        {pages.hasNextPage && (
          <Button variant="default" loading={pages.isFetchingNextPage} onClick={() => pages.fetchNextPage()}>
            Show more
          </Button>
        )}
      </section>
      {origin && <StartDialog origin={origin} onClose={() => setOrigin(undefined)} />}
    </div>
  );
}
