import { Button, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Suspense, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { TemplateEntry } from "../../api/types";
import list from "../../shared/ListRoom.module.css";
import { lazily } from "../../shared/lazily";
import { MailThumbnail } from "../../shared/MailThumbnail";
import { useListFilters } from "../../shared/useListFilters";
import { StartDialog } from "../emails/StartDialog";
import { useIs } from "../session/useSession";
import classes from "./TemplatesRoom.module.css";

const NewTemplateDialog = lazily(() => import("./NewTemplateDialog"));
const ImportTemplateDialog = lazily(() => import("./ImportTemplateDialog"));

const states = {
  draft: "draft, no release yet",
  released: "release",
  changed: "draft ahead of release",
  retired: "retired, release",
} as const;

/** The templates of a campaign type, as they look. */
export default function TemplatesRoom() {
  const filters = useListFilters();
  const chosen = filters.of("type");
  const mine = filters.is("mine");
  const retired = filters.is("retired");
  const [words, setWords] = useState("");
  const [q] = useDebouncedValue(words, 200);
  const [dialog, setDialog] = useState<{ start?: TemplateEntry; make?: { from?: TemplateEntry }; bring?: boolean }>({});
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  const mayStart = useIs("lead", "designer", "author");
  const makes = useIs("lead", "designer");
  const templates = useInfiniteQuery({
    queryKey: ["templates", q, chosen, mine, retired],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/templates", { params: { query: { q, campaignType: chosen, mine, retired, after: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchOnMount: "always",
    placeholderData: (former) => former,
  });
  const shown = templates.data?.pages.flatMap((p) => p.templates) ?? [];
  const typeName = (key: string) => types.data?.find((t) => t.key === key)?.name ?? key;

  return (
    <div className={list.room}>
      <nav className={list.types} aria-label="Campaign types">
        <h1>Templates</h1>
        <button type="button" className={`plain ${list.type}`} aria-current={!chosen} onClick={() => filters.set("type")}>
          All campaign types
        </button>
        {types.data?.map((type) => (
          <button
            type="button"
            key={type.key}
            className={`plain ${list.type}`}
            aria-current={chosen === type.key}
            onClick={() => filters.set("type", type.key)}
          >
            <span>
              {type.name}
              <span className={list.team}>{type.team}</span>
            </span>
          </button>
        ))}
        {makes && (
          <div className={classes.checks}>
            <label>
              <input type="checkbox" checked={mine} onChange={(e) => filters.set("mine", e.currentTarget.checked)} />
              Only my own
            </label>
            <label>
              <input type="checkbox" checked={retired} onChange={(e) => filters.set("retired", e.currentTarget.checked)} />
              Retired
            </label>
          </div>
        )}
      </nav>
      <section className={list.middle} aria-label={chosen ? typeName(chosen) : "All campaign types"}>
        <div className={classes.bar}>
          <TextInput
            aria-label="Find templates"
            placeholder="Find by name, use or tag"
            value={words}
            onChange={(e) => setWords(e.currentTarget.value)}
          />
          {makes && (
            <>
              <Button variant="default" onClick={() => setDialog({ bring: true })}>
                Import
              </Button>
              <Button onClick={() => setDialog({ make: {} })}>New template</Button>
            </>
          )}
        </div>
        {templates.error && <p role="alert">{templates.error.message}</p>}
        {templates.data && shown.length === 0 && (
          <p className={classes.empty}>
            {words
              ? "No template is like that."
              : `${chosen ? typeName(chosen) : "The library"} has no ${retired ? "retired template" : "template yet"}.`}{" "}
            {!retired && (makes ? "Make one: from nothing, from a starter, or from any email." : "A lead or a designer makes one.")}
          </p>
        )}
        <div className={classes.shelf}>
          {shown.map((template) => (
            <article key={template.id} className={classes.template} aria-label={template.name}>
              <MailThumbnail
                src={`/api/templates/${template.id}/html?${template.release > 0 ? `release=${template.release}` : `draft=true&revision=${template.revision}`}`}
                width={264}
                height={330}
                label={`${template.name}, as it looks`}
              />
              <div className={classes.about}>
                <h2>{template.name}</h2>
                <p className="soft">
                  {typeName(template.campaignType)}, {states[template.state]} {template.release > 0 ? template.release : ""}
                  {template.private ? ", private" : ""}
                </p>
                <p>{template.description}</p>
                <p className={classes.zones}>
                  {template.zones.map((zone) => (
                    <span key={zone}>{zone}</span>
                  ))}
                </p>
                {mayStart && template.release > 0 && template.state !== "retired" && (
                  <Button variant="default" onClick={() => setDialog({ start: template })}>
                    Start an email
                  </Button>
                )}
                {makes && (
                  <p className={classes.acts}>
                    <Link to={`/templates/${template.id}`}>Open</Link>
                    <button type="button" className="plain underlined" onClick={() => setDialog({ make: { from: template } })}>
                      Duplicate
                    </button>
                  </p>
                )}
              </div>
            </article>
          ))}
        </div>
        {templates.hasNextPage && (
          <Button variant="default" loading={templates.isFetchingNextPage} onClick={() => templates.fetchNextPage()}>
            Show more
          </Button>
        )}
      </section>
      {dialog.start && <StartDialog origin={{ kind: "template", ...dialog.start }} onClose={() => setDialog({})} />}
      <Suspense fallback={null}>
        {dialog.make && <NewTemplateDialog from={dialog.make.from} campaignType={chosen} onClose={() => setDialog({})} />}
        {dialog.bring && <ImportTemplateDialog onClose={() => setDialog({})} />}
      </Suspense>
    </div>
  );
}
