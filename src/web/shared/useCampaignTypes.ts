import { useQuery } from "@tanstack/react-query";
import { queries } from "../api/queries";

/** The campaign types: those to choose from are those that the server says whoever is signed in may write or make for. */
export function useCampaignTypes() {
  const { data } = useQuery(queries.campaignTypes);
  const all = data ?? [];
  return {
    all,
    /** They are loaded. */
    here: data !== undefined,
    nameOf: (key: string) => all.find((t) => t.key === key)?.name ?? key,
    mayWrite: (key: string) => all.find((t) => t.key === key)?.mayWrite ?? false,
    mayMake: (key: string) => all.find((t) => t.key === key)?.mayMake ?? false,
    /** To choose one from for a template or row. */
    made: all.filter((t) => t.mayMake).map((t) => ({ value: t.key, label: t.name })),
  };
}
