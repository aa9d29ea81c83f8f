import { useQuery } from "@tanstack/react-query";
import { queries } from "../api/queries";

/** The campaign types: those to choose from are those that the server says whoever is signed in may write or make for. */
export function useCampaignTypes() {
  const { data } = useQuery(queries.campaignTypes);
  const all = data ?? [];
  const find = (key: string) => all.find((t) => t.key === (all.find((one) => one.key === key)?.mergedInto ?? key));
  return {
    /** Also those that are retired; those that were merged are found by their former key. */
    all: all.filter((t) => !t.mergedInto),
    /** To choose one from, to narrow a list by. */
    listed: all.filter((t) => !t.mergedInto).map((t) => ({ value: t.key, label: t.name })),
    /** The key that stands in its place now. */
    current: (key: string) => find(key)?.key ?? key,
    /** They are loaded. */
    here: data !== undefined,
    nameOf: (key: string) => find(key)?.name ?? key,
    mayWrite: (key: string) => find(key)?.mayWrite ?? false,
    mayMake: (key: string) => find(key)?.mayMake ?? false,
    /** To choose one from for a template or row. */
    made: all.filter((t) => t.mayMake).map((t) => ({ value: t.key, label: t.name })),
  };
}
