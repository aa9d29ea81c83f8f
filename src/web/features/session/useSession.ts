import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, ask, Problem } from "../../api/client";
import type { Session } from "../../api/types";

/** Who is signed in; null: nobody. */
export function useSession() {
  return useQuery<Session | null>({
    queryKey: ["session"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => {
      try {
        return await ask(api.GET("/api/session"));
      } catch (problem) {
        if (problem instanceof Problem && problem.status === 401) {
          return null;
        }
        throw problem;
      }
    },
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return async () => {
    await ask(api.DELETE("/api/session"));
    queries.clear();
    navigate("/");
    queries.setQueryData(["session"], null);
  };
}
