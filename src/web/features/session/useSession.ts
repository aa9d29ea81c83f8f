import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, ask } from "../../api/client";
import type { Session } from "../../api/types";

/** Who is signed in; null: nobody. */
export function useSession() {
  return useQuery<Session | null>({
    queryKey: ["session"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => (await ask(api.GET("/api/session"))) ?? null,
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return async () => {
    await ask(api.DELETE("/api/session"));
    navigate("/");
    queries.setQueryData(["session"], null);
    // Nothing one person has seen is left for the next.
    queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  };
}
