import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import type { Session } from "../../api/types";

type Role = Session["roles"][number];

/** Who is signed in; null: nobody. */
export function useSession() {
  return useQuery<Session | null>({
    queryKey: ["session"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => (await ask(api.GET("/api/session"))) ?? null,
  });
}

/**
 * Whether whoever is signed in has one of the roles, everywhere or in a team. The server decides; this only leaves out what it
 * would refuse.
 */
export function useIs(...roles: Role[]) {
  const session = useSession().data;
  return session ? [...session.roles, ...session.inTeams.map((held) => held.role)].some((role) => roles.includes(role)) : false;
}

/** The same for what is one for all teams. */
export const useIsEverywhere = (...roles: Role[]) => useSession().data?.roles.some((role) => roles.includes(role)) ?? false;

export function useSignOut() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  return async (where: "here" | "everywhere") => {
    await ask(where === "here" ? api.DELETE("/api/session") : api.DELETE("/api/sessions"));
    navigate("/");
    cache.setQueryData(["session"], null);
    // Nothing one person has seen is left for the next.
    cache.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  };
}
