import { Button, Checkbox, Select } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { RowEntry } from "../../api/types";
import { FilterList, Listing, ListRoom, moreOf } from "../../shared/ListRoom";
import list from "../../shared/ListRoom.module.css";
import { SearchField } from "../../shared/SearchField";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { useListFilters } from "../../shared/useListFilters";
import { WindowedList } from "../../shared/WindowedList";
import { useIs } from "../session/useSession";
import { NewRowDialog } from "./NewRowDialog";
import { RowItem, states } from "./RowItem";
import { useRowKinds } from "./useRowKinds";

/** The saved rows of the library, as they look, to find and to open. */
export default function RowsRoom() {
  const filters = useListFilters();
  const [words, setWords] = useState(filters.of("q") ?? "");
  const [q] = useDebouncedValue(words, 200);
  const [variantOf, setVariantOf] = useState<RowEntry>();
  const types = useCampaignTypes();
  const kinds = useRowKinds();
  const makes = useIs("lead", "designer");
  const kind = filters.of("kind");
  const campaignType = filters.of("type");
  const state = filters.of("state") as keyof typeof states | undefined;
  const mine = filters.is("mine");
  const rows = useInfiniteQuery(queries.rows({ q, kind, campaignType, state, mine }));
  const all = rows.data?.pages.flatMap((p) => p.rows) ?? [];
  const narrowed = q || kind || campaignType || state || mine;

  return (
    <ListRoom
      title="Rows"
      label="Saved rows"
      filters={
        <>
          <FilterList
            label="Row kinds"
            all={[{ name: "All kinds" }, ...kinds.offered.map((k) => ({ value: k.value, name: k.label }))]}
            chosen={kind}
            onChoose={(value) => filters.set("kind", value)}
          />
          <div className={list.checks}>
            <Checkbox label="Only my own" checked={mine} onChange={(e) => filters.set("mine", e.currentTarget.checked)} />
          </div>
        </>
      }
      bar={
        <>
          <SearchField label="Find rows" placeholder="Find by name, use or tag" value={words} onChange={setWords} />
          <Select
            aria-label="Campaign type"
            placeholder="Any campaign type"
            clearable
            data={types.listed}
            value={campaignType ?? null}
            onChange={(v) => filters.set("type", v)}
          />
          {makes && (
            <Select
              aria-label="State"
              placeholder="Any state"
              clearable
              data={Object.entries(states).map(([value, label]) => ({ value, label }))}
              value={state ?? null}
              onChange={(v) => filters.set("state", v)}
            />
          )}
          {makes && <Button onClick={() => filters.set("new", "yes")}>New row</Button>}
        </>
      }
    >
      <Listing
        pages={rows}
        what="The rows"
        count={all.length}
        empty={
          narrowed
            ? "No row is like that. Clear the search or the filters to see all."
            : `A saved row is a part of an email that is used again: a masthead, a hero, a footer. ${
                makes ? "Make the first one, or save one from any email on its desk." : "A designer makes the first one."
              }`
        }
      >
        <WindowedList
          items={all}
          keyOf={(row) => row.id}
          least={490}
          gap={[0, 28]}
          height={190}
          count={rows.data?.pages[0]?.count}
          onEnd={moreOf(rows)}
          render={(row) => <RowItem row={row} makes={makes} onVariant={() => setVariantOf(row)} />}
        />
      </Listing>
      {filters.of("new") !== undefined && makes && (
        <NewRowDialog kind={kind} campaignType={campaignType} onClose={() => filters.set("new")} />
      )}
      {variantOf && <NewRowDialog variantOf={variantOf} kind={variantOf.rowKind} onClose={() => setVariantOf(undefined)} />}
    </ListRoom>
  );
}
