import { Button, Menu, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { EmailEntry } from "../../api/types";
import { dayOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import { MailThumbnail } from "../../shared/MailThumbnail";
import { useListFilters } from "../../shared/useListFilters";
import { useIs } from "../session/useSession";
import classes from "./EmailsRoom.module.css";
import { type Origin, StartDialog } from "./StartDialog";

const NewTemplateDialog = lazily(() => import("../templates/NewTemplateDialog"));

const states = { draft: "Draft", "in-review": "In review", approved: "Approved", "handed-off": "Handed off" };

/** Every email, the last changed first: found by its words, campaign type, state and author. */
export default function EmailsRoom() {
  const filters = useListFilters();
  const [words, setWords] = useState("");
  const [q] = useDebouncedValue(words, 200);
  const [origin, setOrigin] = useState<Origin>();
  const [template, setTemplate] = useState<EmailEntry>();
  const [archivedLast, setArchivedLast] = useState<EmailEntry>();
  const queries = useQueryClient();
  const leads = useIs("lead");
  const makes = useIs("lead", "designer");
  const starts = useIs("lead", "designer", "author");
  const query = {
    q: q || undefined,
    campaignType: filters.of("type"),
    state: filters.of("state"),
    mine: filters.is("mine") || undefined,
    archived: filters.is("archived") || undefined,
  };
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  const emails = useInfiniteQuery({
    queryKey: ["emails", query],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) => ask(api.GET("/api/emails", { params: { query: { ...query, after: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchOnMount: "always",
    placeholderData: (former) => former,
  });
  const all = emails.data?.pages.flatMap((p) => p.emails) ?? [];
  const stand = useMutation({
    mutationFn: ({ email, archived }: { email: EmailEntry; archived: boolean }) =>
      ask(api.PUT("/api/emails/{id}/status", { params: { path: { id: email.id } }, body: { archived } })),
    onSuccess: (_, { email, archived }) => {
      setArchivedLast(archived ? email : undefined);
      return queries.invalidateQueries({ queryKey: ["emails"] });
    },
  });
  const narrowed = q || query.campaignType || query.state || query.mine || query.archived;

  return (
    <div className={classes.room}>
      <div className={classes.bar}>
        <h1>Emails</h1>
        <TextInput
          aria-label="Find emails"
          placeholder="Find by the words inside"
          value={words}
          onChange={(e) => setWords(e.currentTarget.value)}
        />
        <select
          aria-label="Campaign type"
          className={classes.pick}
          value={query.campaignType ?? ""}
          onChange={(e) => filters.set("type", e.currentTarget.value || undefined)}
        >
          <option value="">All campaign types</option>
          {types.data?.map((type) => (
            <option key={type.key} value={type.key}>
              {type.name}
            </option>
          ))}
        </select>
        <select
          aria-label="State"
          className={classes.pick}
          value={query.state ?? ""}
          onChange={(e) => filters.set("state", e.currentTarget.value || undefined)}
        >
          <option value="">Any state</option>
          {Object.entries(states).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
        <label>
          <input type="checkbox" checked={query.mine === true} onChange={(e) => filters.set("mine", e.currentTarget.checked)} /> Only my own
        </label>
        <label>
          <input type="checkbox" checked={query.archived === true} onChange={(e) => filters.set("archived", e.currentTarget.checked)} />{" "}
          Archived
        </label>
        {starts && (
          <Button component={Link} to="/start">
            Start an email
          </Button>
        )}
      </div>
      <p role="status" className={classes.told}>
        {narrowed &&
          emails.data &&
          `${emails.data.pages[0]?.count ?? 0}${(emails.data.pages[0]?.count ?? 0) >= 1000 ? " or more" : ""} found. `}
        {archivedLast && (
          <>
            {archivedLast.name} is archived.{" "}
            <button type="button" className="plain underlined" onClick={() => stand.mutate({ email: archivedLast, archived: false })}>
              Undo
            </button>
          </>
        )}
      </p>
      {(emails.error ?? stand.error) && <p role="alert">{(emails.error ?? stand.error)?.message}</p>}
      {emails.data && all.length === 0 && (
        <p className={classes.empty}>
          {narrowed ? (
            "No email is like that. Ask for less."
          ) : (
            <>
              No emails yet. <Link to="/start">Start the first</Link>.
            </>
          )}
        </p>
      )}
      <ul className={classes.list}>
        {all.map((email) => (
          <li key={email.id} className={classes.item}>
            <Link to={`/emails/${email.id}`} className={classes.email}>
              <MailThumbnail
                src={`/api/emails/${email.id}/html?proof=true&revision=${email.revision}`}
                width={176}
                height={200}
                label={`${email.name}, as it looks`}
              />
              <span className={classes.name}>{email.name}</span>
              <span className="soft">{types.data?.find((t) => t.key === email.campaignType)?.name}</span>
              <span className={classes.state} data-state={email.state}>
                {states[email.state]}
              </span>
              <span className="soft">
                {email.author}, {dayOf(email.changedAt)}
              </span>
            </Link>
            {starts && (
              <Menu position="bottom-start" width={210}>
                <Menu.Target>
                  <button type="button" className={`plain underlined ${classes.more}`} aria-label={`More about ${email.name}`}>
                    More
                  </button>
                </Menu.Target>
                <Menu.Dropdown>
                  <Menu.Item onClick={() => setOrigin({ kind: "email", ...email, next: true })}>Next issue</Menu.Item>
                  <Menu.Item onClick={() => setOrigin({ kind: "email", ...email, next: false })}>Copy it</Menu.Item>
                  {makes && <Menu.Item onClick={() => setTemplate(email)}>Make this a template</Menu.Item>}
                  {(email.mine || leads) && (
                    <Menu.Item onClick={() => stand.mutate({ email, archived: !email.archived })}>
                      {email.archived ? "Restore" : "Archive"}
                    </Menu.Item>
                  )}
                </Menu.Dropdown>
              </Menu>
            )}
          </li>
        ))}
      </ul>
      {emails.hasNextPage && (
        <Button variant="default" loading={emails.isFetchingNextPage} onClick={() => emails.fetchNextPage()}>
          Show more
        </Button>
      )}
      {origin && <StartDialog origin={origin} onClose={() => setOrigin(undefined)} />}
      <Suspense fallback={null}>{template && <NewTemplateDialog email={template} onClose={() => setTemplate(undefined)} />}</Suspense>
    </div>
  );
}
