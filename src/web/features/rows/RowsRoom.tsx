import { Button, Select, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { RowEntry, RowKind } from "../../api/types";
import { MailThumbnail } from "../../shared/MailThumbnail";
import { useListFilters } from "../../shared/useListFilters";
import { useIs } from "../session/useSession";
import { NewRowDialog } from "./NewRowDialog";
import classes from "./RowsRoom.module.css";
import { kindLabel, rowKinds } from "./rowKinds";

const states = { draft: "Draft, no release yet", released: "Released", changed: "Draft ahead of its release", retired: "Retired" } as const;

/** The saved rows of the library, as they look, to find and to open. */
export default function RowsRoom() {
  const filters = useListFilters();
  const [words, setWords] = useState(filters.of("q") ?? "");
  const [q] = useDebouncedValue(words, 200);
  const [variantOf, setVariantOf] = useState<RowEntry>();
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  const kind = filters.of("kind") as RowKind | undefined;
  const campaignType = filters.of("type");
  const state = filters.of("state") as keyof typeof states | undefined;
  const mine = filters.is("mine");
  const makes = useIs("lead", "designer");
  const making = filters.of("new") !== undefined && makes;
  const rows = useInfiniteQuery({
    queryKey: ["rows", q, kind, campaignType, state, mine],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) => ask(api.GET("/api/rows", { params: { query: { q, kind, campaignType, state, mine, after: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchOnMount: "always",
    placeholderData: (former) => former,
  });
  const all = rows.data?.pages.flatMap((p) => p.rows) ?? [];
  const typeName = (key: string) => types.data?.find((t) => t.key === key)?.name ?? key;

  return (
    <div className={classes.room}>
      <nav className={classes.filters} aria-label="Row kinds">
        <h1>Rows</h1>
        {[{ value: undefined, label: "All kinds" }, ...rowKinds].map((k) => (
          <button
            key={k.label}
            type="button"
            className={`plain ${classes.filter}`}
            aria-current={kind === k.value}
            onClick={() => filters.set("kind", k.value)}
          >
            {k.label}
          </button>
        ))}
        <label className={classes.mine}>
          <input type="checkbox" checked={mine} onChange={(e) => filters.set("mine", e.currentTarget.checked)} />
          Only my own
        </label>
      </nav>
      <section className={classes.middle} aria-label="Saved rows">
        <div className={classes.bar}>
          <TextInput
            aria-label="Find rows"
            placeholder="Find by name, use or tag"
            value={words}
            onChange={(e) => setWords(e.currentTarget.value)}
          />
          <Select
            aria-label="Campaign type"
            placeholder="Any campaign type"
            clearable
            data={types.data?.map((t) => ({ value: t.key, label: t.name })) ?? []}
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
        </div>
        {rows.error && <p role="alert">{rows.error.message}</p>}
        {rows.data && all.length === 0 && (
          <p className={classes.empty}>
            {makes
              ? "No row is like that. Make a new one, or save one from any email or template on its desk."
              : "No row is like that. A designer can make one."}
          </p>
        )}
        <ul className={classes.list}>
          {all.map((row) => (
            <li key={row.id} className={classes.row} aria-label={row.name}>
              <MailThumbnail
                src={`/api/rows/${row.id}/html?${makes ? `draft=true&revision=${row.revision}` : `release=${row.release}`}`}
                width={240}
                height={140}
                label={`${row.name}, as it looks`}
              />
              <div className={classes.about}>
                <h2>{makes ? <Link to={`/rows/${row.id}`}>{row.name}</Link> : row.name}</h2>
                <p className="soft">
                  {kindLabel(row.rowKind)} ·{" "}
                  {row.campaignTypes.length === 0 ? "all campaign types" : row.campaignTypes.map(typeName).join(", ")}
                </p>
                {row.varies && <p className="soft">Variant: {row.varies}</p>}
                <p>{row.description}</p>
                {row.instruction && <p className={classes.instruction}>{row.instruction}</p>}
                {makes && (
                  <p className={classes.foot}>
                    <span data-state={row.state}>
                      {states[row.state]}
                      {row.release > 0 && row.state !== "draft" ? `, ${row.release}` : ""}
                      {row.private ? " · private" : ""}
                    </span>
                    <span className="soft">{row.mine ? "mine" : row.owner}</span>
                    <button type="button" className="plain underlined" onClick={() => setVariantOf(row)}>
                      New variant
                    </button>
                  </p>
                )}
              </div>
            </li>
          ))}
        </ul>
        {rows.hasNextPage && (
          <Button variant="default" loading={rows.isFetchingNextPage} onClick={() => rows.fetchNextPage()}>
            Show more
          </Button>
        )}
      </section>
      {making && <NewRowDialog kind={kind} campaignType={campaignType} onClose={() => filters.set("new")} />}
      {variantOf && <NewRowDialog variantOf={variantOf} kind={variantOf.rowKind} onClose={() => setVariantOf(undefined)} />}
    </div>
  );
}
