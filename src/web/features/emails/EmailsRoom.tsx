import { Button, Checkbox, Select } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery, useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { EmailEntry } from "../../api/types";
import { countOf, numberOf } from "../../shared/format";
import { FilterList, Listing, ListRoom, moreOf } from "../../shared/ListRoom";
import list from "../../shared/ListRoom.module.css";
import { lazily } from "../../shared/lazily";
import { SearchField } from "../../shared/SearchField";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { useListFilters } from "../../shared/useListFilters";
import { WindowedList } from "../../shared/WindowedList";
import { useIs } from "../session/useSession";
import { EmailItem, states } from "./EmailItem";
import classes from "./EmailsRoom.module.css";
import { type Origin, StartDialog } from "./StartDialog";

const NewTemplateDialog = lazily(() => import("../templates/NewTemplateDialog"));

/** After it what was edited is searched by its words. */
const aMoment = 1500;

/** Every email, the last changed first: found by its words, campaign type, state and author. */
export default function EmailsRoom() {
  const filters = useListFilters();
  const [words, setWords] = useState("");
  const [q] = useDebouncedValue(words, 200);
  const [origin, setOrigin] = useState<Origin>();
  const [template, setTemplate] = useState<EmailEntry>();
  const [archivedLast, setArchivedLast] = useState<EmailEntry>();
  const cache = useQueryClient();
  const starts = useIs("lead", "designer", "author");
  const query = {
    q: q || undefined,
    campaignType: filters.of("type"),
    state: filters.of("state"),
    mine: filters.is("mine") || undefined,
    archived: filters.is("archived") || undefined,
  };
  const types = useCampaignTypes();
  const emails = useInfiniteQuery({
    ...queries.emails(query),
    refetchInterval: ({ state }) => (state.data?.pages[0]?.behind ? aMoment : false),
  });
  const all = emails.data?.pages.flatMap((p) => p.emails) ?? [];
  const archive = useMutation({
    mutationFn: ({ email, archived }: { email: EmailEntry; archived: boolean }) =>
      ask(api.PUT("/api/emails/{id}/status", { params: { path: { id: email.id } }, body: { archived } })),
    onSuccess: (_, { email, archived }) => {
      setArchivedLast(archived ? email : undefined);
      return cache.invalidateQueries({ queryKey: ["emails"] });
    },
  });
  const narrowed = q || query.campaignType || query.state || query.mine || query.archived;
  const count = emails.data?.pages[0]?.count ?? 0;
  const behind = emails.data?.pages[0]?.behind ?? 0;

  return (
    <ListRoom
      title="Emails"
      label="All emails"
      filters={
        <>
          <FilterList
            label="Campaign types"
            all={[{ name: "All campaign types" }, ...types.listed.map((t) => ({ value: t.value, name: t.label }))]}
            chosen={query.campaignType}
            onChoose={(value) => filters.set("type", value)}
          />
          <div className={list.checks}>
            <Checkbox label="Only my own" checked={query.mine === true} onChange={(e) => filters.set("mine", e.currentTarget.checked)} />
            <Checkbox
              label="Archived"
              checked={query.archived === true}
              onChange={(e) => filters.set("archived", e.currentTarget.checked)}
            />
          </div>
        </>
      }
      bar={
        <>
          <SearchField label="Find emails" placeholder="Find by the words inside" value={words} onChange={setWords} />
          <Select
            aria-label="State"
            placeholder="Any state"
            clearable
            data={Object.entries(states).map(([value, label]) => ({ value, label }))}
            value={query.state ?? null}
            onChange={(value) => filters.set("state", value)}
          />
          {starts && (
            <Button component={Link} to="/start">
              Start an email
            </Button>
          )}
        </>
      }
    >
      <p role="status" className={classes.told}>
        {behind > 0 && `${countOf(behind, "email is", "emails are")} still being read and may be missing here. `}
        {narrowed && emails.data && `${numberOf(count)}${emails.data.pages[0]?.more ? " or more" : ""} found. `}
        {archivedLast && (
          <>
            {archivedLast.name} is archived.{" "}
            <button type="button" className="plain underlined" onClick={() => archive.mutate({ email: archivedLast, archived: false })}>
              Undo
            </button>
          </>
        )}
      </p>
      {archive.error && <p role="alert">{archive.error.message}</p>}
      <Listing
        pages={emails}
        what="The emails"
        count={all.length}
        empty={
          narrowed ? (
            "No email is like that. Clear the search or the filters to see all."
          ) : (
            <>
              No emails yet. {starts && <Link to="/start">Start the first</Link>} {starts && "from a template; it fixes what must stay."}
            </>
          )
        }
      >
        <WindowedList
          items={all}
          keyOf={(email) => email.id}
          least={168}
          gap={[28, 18]}
          height={330}
          count={emails.data?.pages[0]?.more ? -1 : count}
          onEnd={moreOf(emails)}
          render={(email) => (
            <EmailItem
              email={email}
              typeName={types.nameOf(email.campaignType)}
              onOrigin={(next) => setOrigin({ kind: "email", ...email, next })}
              onTemplate={() => setTemplate(email)}
              onArchive={() => archive.mutate({ email, archived: !email.archived })}
            />
          )}
        />
      </Listing>
      {origin && <StartDialog origin={origin} onClose={() => setOrigin(undefined)} />}
      {template && <NewTemplateDialog email={template} onClose={() => setTemplate(undefined)} />}
    </ListRoom>
  );
}
