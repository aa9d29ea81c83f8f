import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, askAlone } from "../../api/client";
import { EntryPage } from "./EntryPage";
import { linkParts, NewPasswordForm } from "./NewPasswordForm";
import { beginSession } from "./useSession";

/** Where the link of an invitation leads: a password, and one is in. */
export function JoinPage() {
  const [link] = useState(linkParts);
  const cache = useQueryClient();
  const navigate = useNavigate();
  const join = useMutation({
    mutationFn: (password: string) => askAlone(() => api.POST("/api/invitations/acceptance", { body: { ...link, password, name: null } })),
    onSuccess: (session) => {
      // Whoever was signed in here before is not any more.
      cache.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      beginSession(cache, session);
      navigate("/", { replace: true });
    },
  });
  return (
    <EntryPage title="Welcome">
      <p>Choose a password. With it and your email address you sign in from now on.</p>
      <NewPasswordForm label="Begin" fault={join.error?.message} busy={join.isPending} onChosen={join.mutate} />
    </EntryPage>
  );
}
