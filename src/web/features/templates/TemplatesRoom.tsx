import { Button, Checkbox } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { CampaignType, TemplateEntry } from "../../api/types";
import { FilterList, Listing, ListRoom, moreOf } from "../../shared/ListRoom";
import list from "../../shared/ListRoom.module.css";
import { lazily } from "../../shared/lazily";
import { SearchField } from "../../shared/SearchField";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { useListFilters } from "../../shared/useListFilters";
import { WindowedList } from "../../shared/WindowedList";
import { StartDialog } from "../emails/StartDialog";
import { FirstSteps } from "../session/FirstSteps";
import { useIs } from "../session/useSession";
import { TemplateItem } from "./TemplateItem";

const NewTemplateDialog = lazily(() => import("./NewTemplateDialog"));
const ImportTemplateDialog = lazily(() => import("./ImportTemplateDialog"));

/** The templates of a campaign type, as they look. */
export default function TemplatesRoom() {
  const filters = useListFilters();
  const chosen = filters.of("type");
  const mine = filters.is("mine");
  const retired = filters.is("retired");
  const [words, setWords] = useState("");
  const [q] = useDebouncedValue(words, 200);
  const [dialog, setDialog] = useState<{ start?: TemplateEntry; copy?: TemplateEntry; bring?: boolean }>({});
  const types = useCampaignTypes();
  const teams = useQuery(queries.teams);
  const makes = useIs("lead", "designer");
  const templates = useInfiniteQuery(queries.templates({ q, campaignType: chosen, mine, retired }));
  const shown = templates.data?.pages.flatMap((p) => p.templates) ?? [];
  const teamsOf = (type: CampaignType) =>
    teams.data
      ?.filter((t) => type.teams.includes(t.id))
      .map((t) => t.name)
      .join(", ");

  return (
    <ListRoom
      title="Templates"
      label={chosen ? types.nameOf(chosen) : "All campaign types"}
      filters={
        <>
          <FilterList
            label="Campaign types"
            all={[{ name: "All campaign types" }, ...types.all.map((t) => ({ value: t.key, name: t.name, note: teamsOf(t) }))]}
            chosen={chosen}
            onChoose={(value) => filters.set("type", value)}
          />
          {makes && (
            <div className={list.checks}>
              <Checkbox label="Only my own" checked={mine} onChange={(e) => filters.set("mine", e.currentTarget.checked)} />
              <Checkbox label="Retired" checked={retired} onChange={(e) => filters.set("retired", e.currentTarget.checked)} />
            </div>
          )}
        </>
      }
      bar={
        <>
          <SearchField label="Find templates" placeholder="Find by name, use or tag" value={words} onChange={setWords} />
          {makes && (
            <>
              <Button variant="default" onClick={() => setDialog({ bring: true })}>
                Import
              </Button>
              <Button onClick={() => filters.set("new", "yes")}>New template</Button>
            </>
          )}
        </>
      }
    >
      <FirstSteps />
      <Listing
        pages={templates}
        what="The templates"
        count={shown.length}
        empty={
          words || mine
            ? "No template is like that. Clear the search or the filters to see all."
            : retired
              ? "No template is retired."
              : `${chosen ? types.nameOf(chosen) : "The library"} has no template yet. ${
                  makes
                    ? "A template fixes what every email of its kind has. Make one: from nothing, from a starter, or from any email."
                    : "A lead or a designer makes one."
                }`
        }
      >
        <WindowedList
          items={shown}
          keyOf={(template) => template.id}
          least={460}
          gap={[28, 24]}
          height={332}
          onEnd={moreOf(templates)}
          render={(template) => (
            <TemplateItem
              template={template}
              types={types}
              onStart={() => setDialog({ start: template })}
              onDuplicate={() => setDialog({ copy: template })}
            />
          )}
        />
      </Listing>
      {dialog.start && <StartDialog origin={{ kind: "template", ...dialog.start }} onClose={() => setDialog({})} />}
      {filters.is("new") && makes && <NewTemplateDialog campaignType={chosen} onClose={() => filters.set("new")} />}
      {dialog.copy && <NewTemplateDialog from={dialog.copy} onClose={() => setDialog({})} />}
      {dialog.bring && <ImportTemplateDialog onClose={() => setDialog({})} />}
    </ListRoom>
  );
}
