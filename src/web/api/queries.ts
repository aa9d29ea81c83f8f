import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, ask, askText } from "./client";
import type { paths } from "./schema";
import { findThumbnail } from "./thumbnails";
import type { ReviewAgainst, ThumbnailSubject } from "./types";

/** What the interface asks the server for, each under its key: whoever changes something says by the key what is to be asked anew. */

type QueryOf<P extends keyof paths> = paths[P] extends { get: { parameters: { query?: infer Q } } } ? Omit<NonNullable<Q>, "after"> : never;

/** A list that comes page by page. */
const paged = {
  initialPageParam: undefined as string | undefined,
  getNextPageParam: (page: { next?: string | null }) => page.next ?? undefined,
  // What was there stays until what is asked for is here.
  placeholderData: keepPreviousData,
  refetchOnMount: "always",
} as const;

/** Does not change while the application is open. */
const fixed = { staleTime: Number.POSITIVE_INFINITY } as const;

/** What is being drawn is asked for again after it. */
const aMoment = 700;

const aMinute = { staleTime: 60_000 } as const;

export const queries = {
  campaignTypes: queryOptions({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) }),
  rowKinds: queryOptions({ queryKey: ["row-kinds"], queryFn: () => ask(api.GET("/api/row-kinds")) }),
  server: queryOptions({ queryKey: ["server"], ...fixed, queryFn: () => ask(api.GET("/api/server")) }),
  accounts: queryOptions({ queryKey: ["accounts"], queryFn: () => ask(api.GET("/api/accounts")), refetchOnMount: "always" }),
  sessions: queryOptions({ queryKey: ["sessions"], queryFn: () => ask(api.GET("/api/sessions")), refetchOnMount: "always" }),
  twoFactor: queryOptions({ queryKey: ["two-factor"], queryFn: () => ask(api.GET("/api/session/two-factor")) }),
  log: (query: { kind?: string; person?: string; from?: string; until?: string }) =>
    infiniteQueryOptions({
      queryKey: ["log", query],
      refetchOnMount: "always",
      placeholderData: keepPreviousData,
      initialPageParam: undefined as number | undefined,
      queryFn: ({ pageParam }) => ask(api.GET("/api/log", { params: { query: { ...query, before: pageParam } } })),
      getNextPageParam: (page) => page.next ?? undefined,
    }),
  mailroom: queryOptions({ queryKey: ["mailroom"], queryFn: () => ask(api.GET("/api/mailroom")), refetchInterval: 3000 }),
  mail: (id: number) =>
    queryOptions({ queryKey: ["mailroom", id], queryFn: () => ask(api.GET("/api/mailroom/{id}", { params: { path: { id } } })) }),
  teams: queryOptions({ queryKey: ["teams"], queryFn: () => ask(api.GET("/api/teams")) }),
  languages: queryOptions({ queryKey: ["languages"], ...fixed, queryFn: () => ask(api.GET("/api/languages")) }),
  houseStyles: queryOptions({ queryKey: ["house-styles"], queryFn: () => ask(api.GET("/api/house-styles")) }),
  starters: queryOptions({ queryKey: ["starters"], ...fixed, queryFn: () => ask(api.GET("/api/starters")) }),
  blockKinds: queryOptions({ queryKey: ["block-kinds"], ...fixed, queryFn: () => ask(api.GET("/api/block-kinds")) }),
  specimenPieces: queryOptions({
    queryKey: ["specimen-pieces"],
    ...fixed,
    queryFn: () => ask(api.GET("/api/house-styles/specimen-pieces")),
  }),
  checks: queryOptions({ queryKey: ["checks"], ...fixed, queryFn: () => ask(api.GET("/api/checks")) }),
  mailClients: queryOptions({ queryKey: ["mail-clients"], ...fixed, queryFn: () => ask(api.GET("/api/checks/clients")) }),
  checkPolicy: queryOptions({ queryKey: ["check-policy"], queryFn: () => ask(api.GET("/api/checks/policy")), refetchOnMount: "always" }),
  coverage: queryOptions({ queryKey: ["coverage"], queryFn: () => ask(api.GET("/api/coverage")), refetchOnMount: "always" }),
  firstSteps: queryOptions({ queryKey: ["first-steps"], queryFn: () => ask(api.GET("/api/first-steps")), refetchOnMount: "always" }),
  search: (q: string) =>
    queryOptions({
      queryKey: ["search", q],
      enabled: q.trim() !== "",
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET("/api/search", { params: { query: { q } } })),
    }),
  thumbnail: (subject: ThumbnailSubject, version: string) =>
    queryOptions({
      queryKey: ["thumbnails", subject, version],
      ...aMinute,
      queryFn: () => findThumbnail(subject),
      refetchInterval: ({ state }) => (state.data?.coming ? aMoment : false),
    }),
  nodes: (query: { campaignType: string; language: string; day: string }) =>
    queryOptions({
      queryKey: ["nodes", query],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET("/api/nodes", { params: { query } })),
    }),
  snippetPreview: (id: string, revision: number) =>
    queryOptions({
      queryKey: ["uses", "snippets", id, revision, "first"],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET("/api/snippets/{id}/uses", { params: { path: { id } } })),
    }),
  snippets: queryOptions({ queryKey: ["snippets"], queryFn: () => ask(api.GET("/api/snippets")), refetchOnMount: "always" }),
  audiences: queryOptions({ queryKey: ["audiences"], queryFn: () => ask(api.GET("/api/audiences")) }),
  sampleReaders: queryOptions({ queryKey: ["sample-readers"], queryFn: () => ask(api.GET("/api/sample-readers")) }),
  people: queryOptions({ queryKey: ["people"], ...aMinute, queryFn: () => ask(api.GET("/api/people")) }),
  masters: queryOptions({ queryKey: ["masters"], ...aMinute, queryFn: () => ask(api.GET("/api/masters")) }),
  files: queryOptions({ queryKey: ["files"], queryFn: () => ask(api.GET("/api/files")) }),
  recentLinks: queryOptions({ queryKey: ["recent-links"], ...aMinute, queryFn: () => ask(api.GET("/api/links/recent")) }),
  pictureTags: queryOptions({ queryKey: ["pictures", "tags"], queryFn: () => ask(api.GET("/api/pictures/tags")) }),
  report: (id: string) =>
    queryOptions({
      queryKey: ["report", id],
      queryFn: () => ask(api.GET("/api/emails/{id}/report", { params: { path: { id } } })),
      refetchOnMount: "always",
    }),

  home: queryOptions({ queryKey: ["home"], queryFn: () => ask(api.GET("/api/home")), refetchOnMount: "always", refetchInterval: 60_000 }),
  notices: queryOptions({ queryKey: ["notices"], queryFn: () => ask(api.GET("/api/notices")) }),
  libraryHealth: queryOptions({
    queryKey: ["library-health"],
    queryFn: () => ask(api.GET("/api/library-health")),
    refetchOnMount: "always",
  }),
  calendar: (from: string, until: string) =>
    queryOptions({
      queryKey: ["calendar", from, until],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET("/api/calendar", { params: { query: { from, until } } })),
      refetchOnMount: "always",
    }),
  review: (id: string) =>
    queryOptions({
      queryKey: ["review", id],
      queryFn: () => ask(api.GET("/api/emails/{id}/review", { params: { path: { id } } })),
      refetchOnMount: "always",
    }),
  /** @param against Undefined: the first of what it can be compared with. */
  comparison: (id: string, against?: ReviewAgainst) =>
    queryOptions({
      queryKey: ["review", id, "comparison", against ?? ""],
      placeholderData: keepPreviousData,
      refetchOnMount: "always",
      queryFn: () => ask(api.GET("/api/emails/{id}/review/comparison", { params: { path: { id }, query: { against } } })),
    }),
  /** @param version Changes with what there is to be seen. */
  seenBy: (id: string, reader: string, version: string) =>
    queryOptions({
      queryKey: ["seen-by", id, reader, version],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET("/api/emails/{id}/draft/reader", { params: { path: { id }, query: { reader } } })),
    }),
  destinations: queryOptions({
    queryKey: ["destinations"],
    queryFn: () => ask(api.GET("/api/destinations")),
    refetchOnMount: "always",
  }),
  contactLists: (destination: string) =>
    queryOptions({
      queryKey: ["contact-lists", destination],
      enabled: destination !== "",
      retry: false,
      queryFn: () => ask(api.GET("/api/destinations/{id}/lists", { params: { path: { id: destination } } })),
    }),
  tokens: queryOptions({ queryKey: ["tokens"], queryFn: () => ask(api.GET("/api/tokens")), refetchOnMount: "always" }),
  webhooks: queryOptions({ queryKey: ["webhooks"], queryFn: () => ask(api.GET("/api/webhooks")), refetchOnMount: "always" }),
  deliveries: (webhook: string) =>
    queryOptions({
      queryKey: ["webhooks", webhook, "deliveries"],
      queryFn: () => ask(api.GET("/api/webhooks/{id}/deliveries", { params: { path: { id: webhook } } })),
      refetchInterval: 3000,
    }),
  returnsBy: (by: "row" | "template" | "campaign-type" | "month") =>
    queryOptions({
      queryKey: ["returns", by],
      placeholderData: keepPreviousData,
      queryFn: () => ask(api.GET("/api/returns", { params: { query: { by } } })),
      refetchOnMount: "always",
    }),
  /** Under the hand-off's key: news of it ask for this anew too. */
  sending: (handOff: string) =>
    queryOptions({
      queryKey: ["hand-off", handOff, "sending"],
      queryFn: () => ask(api.GET("/api/hand-offs/{id}/sending", { params: { path: { id: handOff } } })),
      refetchOnMount: "always",
      // What is told live may come seldom: while something goes on, its time goes on too.
      refetchInterval: ({ state: { data } }) =>
        data?.sends.some((s) => s.state === "running" || s.state === "stopping") || data?.pushes.some((p) => p.nextTry) ? 2000 : false,
    }),
  returns: (handOff: string) =>
    queryOptions({
      queryKey: ["hand-off", handOff, "returns"],
      queryFn: () => ask(api.GET("/api/hand-offs/{id}/returns", { params: { path: { id: handOff } } })),
      refetchOnMount: "always",
      refetchInterval: 15_000,
    }),
  handOffs: (email: string) =>
    queryOptions({
      queryKey: ["hand-offs", email],
      queryFn: () => ask(api.GET("/api/emails/{id}/hand-offs", { params: { path: { id: email } } })),
      refetchOnMount: "always",
    }),
  handOffHtml: (id: string) =>
    queryOptions({ queryKey: ["hand-off-html", id], ...fixed, queryFn: () => askText(`/api/hand-offs/${id}/html?proof=true`) }),
  handOffText: (id: string) =>
    queryOptions({ queryKey: ["hand-off-text", id], ...fixed, queryFn: () => askText(`/api/hand-offs/${id}/text?proof=true`) }),
  handOff: (id: string) =>
    queryOptions({ queryKey: ["hand-off", id], queryFn: () => ask(api.GET("/api/hand-offs/{id}", { params: { path: { id } } })) }),
  testSends: (email: string) =>
    queryOptions({
      queryKey: ["test-sends", email],
      queryFn: () => ask(api.GET("/api/emails/{id}/test-sends", { params: { path: { id: email } } })),
      refetchOnMount: "always",
    }),
  testers: queryOptions({ queryKey: ["testers"], queryFn: () => ask(api.GET("/api/testers")), refetchOnMount: "always" }),
  comments: (id: string) =>
    queryOptions({
      queryKey: ["comments", id],
      queryFn: () => ask(api.GET("/api/emails/{id}/comments", { params: { path: { id } } })),
      refetchOnMount: "always",
    }),
  reach: (id: string, release: number) =>
    infiniteQueryOptions({
      queryKey: ["reach", id, release],
      ...paged,
      queryFn: ({ pageParam }) => ask(api.GET("/api/house-styles/{id}/reach", { params: { path: { id }, query: { after: pageParam } } })),
    }),
  uses: (of: "pictures" | "templates" | "rows" | "snippets", id: string, revision?: number) =>
    infiniteQueryOptions({
      queryKey: ["uses", of, id, revision],
      ...paged,
      queryFn: ({ pageParam }) =>
        ask(api.GET(`/api/${of}/{id}/uses` as "/api/templates/{id}/uses", { params: { path: { id }, query: { after: pageParam } } })),
    }),
  rows: (query: QueryOf<"/api/rows">) =>
    infiniteQueryOptions({
      queryKey: ["rows", query],
      ...paged,
      queryFn: ({ pageParam }) => ask(api.GET("/api/rows", { params: { query: { ...query, after: pageParam } } })),
    }),
  templates: (query: QueryOf<"/api/templates">) =>
    infiniteQueryOptions({
      queryKey: ["templates", query],
      ...paged,
      queryFn: ({ pageParam }) => ask(api.GET("/api/templates", { params: { query: { ...query, after: pageParam } } })),
    }),
  emails: (query: QueryOf<"/api/emails">) =>
    infiniteQueryOptions({
      queryKey: ["emails", query],
      ...paged,
      queryFn: ({ pageParam }) => ask(api.GET("/api/emails", { params: { query: { ...query, after: pageParam } } })),
    }),
  pictures: (query: QueryOf<"/api/pictures">) =>
    infiniteQueryOptions({
      queryKey: ["pictures", "list", query],
      ...paged,
      queryFn: ({ pageParam }) => ask(api.GET("/api/pictures", { params: { query: { ...query, after: pageParam } } })),
    }),
};
