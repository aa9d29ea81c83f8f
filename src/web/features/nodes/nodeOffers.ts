import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useEffect, useMemo } from "react";
import { watchReleases } from "../../api/live";
import { queries } from "../../api/queries";
import type { NodeOffer } from "../../api/types";
import type { InlineNode } from "../../shared/nodes";

/** What the snippets and fields that are put into words come to: by the email they stand in. */
export interface NodePlace {
  campaignType: string;
  language: string;
  /** The day it goes out; empty: today. */
  day: string;
}

export const NodePlaceContext = createContext<NodePlace | null>(null);

/** Where words can hold snippets and fields, what there is and what each says. */
export function useNodeOffers() {
  const place = useContext(NodePlaceContext);
  const offers = useQuery({ ...queries.nodes(place ?? nowhere), enabled: place !== null });
  const byKey = useMemo(() => new Map(offers.data?.map((offer) => [`${offer.kind}:${offer.key}`, offer])), [offers.data]);
  const find = useCallback((node: InlineNode): NodeOffer | undefined => byKey.get(`${node.kind}:${node.key}`), [byKey]);
  /** What it is shown by: its words, or what it is called where it says nothing. */
  const shown = useCallback((node: InlineNode) => (find(node) ? find(node)?.words || find(node)?.name : undefined), [find]);
  return { offers, find, shown, can: place !== null };
}

/** What they say is asked anew whenever the library moves. */
export function useFreshNodes() {
  const cache = useQueryClient();
  useEffect(() => watchReleases(() => void cache.invalidateQueries({ queryKey: ["nodes"] })), [cache]);
}

const nowhere: NodePlace = { campaignType: "", language: "", day: "" };
