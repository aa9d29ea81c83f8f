import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { Desk } from "../desk/DeskStore";
import { useDeskContext } from "../desk/useDesk";

/** The release that is planned; null: none is. */
export function usePlannedRelease(desk: Desk) {
  const { store } = useDeskContext();
  return useQuery({
    queryKey: ["planned-release", desk.id, desk.revision, desk.about?.release],
    enabled: desk.about !== null && !desk.asAuthor,
    queryFn: async () =>
      (
        await ask(
          api.GET(`/api/${store.kind}/{id}/planned-release` as "/api/templates/{id}/planned-release", {
            params: { path: { id: desk.id } },
          }),
        )
      ).planned ?? null,
    // Its moment may come while the desk is open.
    refetchInterval: ({ state }) => (state.data ? 5_000 : false),
  });
}
