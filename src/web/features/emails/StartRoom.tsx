import { Button, Checkbox } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { ThumbnailSubject } from "../../api/types";
import { dayOf } from "../../shared/format";
import { FilterList, Listing, ListRoom, moreOf } from "../../shared/ListRoom";

import { SearchField } from "../../shared/SearchField";
import { Thumbnail } from "../../shared/Thumbnail";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { useListFilters } from "../../shared/useListFilters";
import { WindowedList } from "../../shared/WindowedList";
import { type Origin, StartDialog } from "./StartDialog";
import classes from "./StartRoom.module.css";

interface Offered {
  id: string;
  name: string;
  about: string;
  subject: ThumbnailSubject;
  /** Of what it looks like. */
  version: string;
  origin: Origin;
}

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
  const types = useCampaignTypes();
  const recent = filters.is("recent");
  const query = { q: q || undefined, campaignType: type, mine: mine || undefined };
  const templates = useInfiniteQuery({ ...queries.templates({ ...query, recent: recent || undefined }), enabled: !before });
  const emails = useInfiniteQuery({ ...queries.emails(query), enabled: before });
  const offered: Offered[] = before
    ? (emails.data?.pages
        .flatMap((page) => page.emails)
        .filter((e) => types.mayWrite(e.campaignType))
        .map((e) => ({
          id: e.id,
          name: e.name,
          about: `${types.nameOf(e.campaignType)}, ${e.author}, ${dayOf(e.changedAt)}`,
          subject: { kind: "email", id: e.id, draft: false },
          version: `${e.revision}`,
          origin: { kind: "email", id: e.id, name: e.name, nextName: e.nextName },
        })) ?? [])
    : (templates.data?.pages
        .flatMap((page) => page.templates)
        .filter((t) => t.release > 0 && t.state !== "retired" && types.mayWrite(t.campaignType))
        .map((t) => ({
          id: t.id,
          name: t.name,
          about: `${types.nameOf(t.campaignType)}. ${t.description}`,
          subject: { kind: "template", id: t.id, draft: false },
          version: `${t.release}`,
          origin: { kind: "template", id: t.id, name: t.name },
        })) ?? []);

  return (
    <ListRoom
      title="Start an email"
      label="Templates and earlier emails"
      filters={
        <FilterList
          label="Campaign types"
          all={[{ name: "All campaign types" }, ...types.all.filter((t) => t.mayWrite).map((t) => ({ value: t.key, name: t.name }))]}
          chosen={type}
          onChoose={(value) => filters.set("type", value)}
        />
      }
      bar={
        <>
          <fieldset className={classes.from} aria-label="It begins with">
            <button type="button" className="plain" aria-pressed={!before} onClick={() => filters.set("from")}>
              From a template
            </button>
            <button type="button" className="plain" aria-pressed={before} onClick={() => filters.set("from", "email")}>
              From an earlier email
            </button>
          </fieldset>
          <SearchField
            label="Find"
            placeholder={before ? "Find by the words inside" : "Find by name, use or tag"}
            value={words}
            onChange={setWords}
          />
          <Checkbox label="Only my own" checked={mine} onChange={(e) => filters.set("mine", e.currentTarget.checked)} />
          {!before && <Checkbox label="Recently used" checked={recent} onChange={(e) => filters.set("recent", e.currentTarget.checked)} />}
        </>
      }
    >
      <Listing
        pages={before ? emails : templates}
        what={before ? "The emails" : "The templates"}
        count={offered.length}
        empty={
          words || mine || type || recent
            ? "Nothing is like that. Clear the search, or look among all campaign types."
            : before
              ? "There is no earlier email yet. Start from a template."
              : "No template is released yet. A lead or a designer makes one, in Templates."
        }
      >
        <WindowedList
          items={offered}
          keyOf={(one) => one.id}
          least={310}
          gap={[30, 24]}
          height={360}
          onEnd={moreOf(before ? emails : templates)}
          render={(one) => (
            <article aria-label={one.name} className={classes.one}>
              <div className={classes.looks}>
                <Thumbnail subject={one.subject} version={one.version} width={200} height={250} label={`${one.name}, on the desktop`} />
                <Thumbnail
                  subject={{ ...one.subject, screen: "phone" }}
                  version={one.version}
                  width={117}
                  height={250}
                  label={`${one.name}, on the phone`}
                />
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
          )}
        />
      </Listing>
      {origin && <StartDialog origin={origin} onClose={() => setOrigin(undefined)} />}
    </ListRoom>
  );
}
