import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, ask, type Problem } from "../../api/client";
import { tellSignedIn, tellSignedOut } from "../../api/session";
import type { Session } from "../../api/types";

type Role = Session["roles"][number];

/** Who is signed in here by now, in whichever window; null: nobody. */
export const askSession = async () => (await ask(api.GET("/api/session"))) ?? null;

/** From now on the page is of whoever has signed in. */
export function beginSession(cache: QueryClient, session: Session) {
  cache.setQueryData(["session"], session);
  tellSignedIn();
}

/** Who this page is of; null: nobody has signed in yet. */
export function useSession() {
  const cache = useQueryClient();
  return useQuery<Session | null>({
    queryKey: ["session"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => {
      const before = cache.getQueryData<Session | null>(["session"]);
      const now = await askSession();
      if (before && before.id !== now?.id) {
        // The page stays whose it is, with what they typed, until they have signed in again.
        tellSignedOut();
        return before;
      }
      return now;
    },
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
    await ask(where === "here" ? api.DELETE("/api/session") : api.DELETE("/api/sessions")).catch((problem: Problem) => {
      // Whose session has ended before is signed out, too.
      if (problem.status !== 401 || where === "everywhere") {
        throw problem;
      }
    });
    navigate("/");
    cache.setQueryData(["session"], null);
    // Nothing one person has seen is left for the next.
    cache.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  };
}
