import { Button } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import { dateAndTimeOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import { Pending } from "../../shared/Pending";
import { rolesInWords } from "../people/roleWords";
import classes from "./AccountRoom.module.css";
import { browserInWords } from "./browserInWords";
import { NoticesSheet } from "./NoticesSheet";
import { TwoFactorSheet } from "./TwoFactorSheet";
import { useSession, useSignOut } from "./useSession";

const PasswordDialog = lazily(() => import("./PasswordDialog"));

/** One's own account: what one is, the password, the second factor, and where one is signed in. */
export default function AccountRoom() {
  const session = useSession().data;
  const teams = useQuery(queries.teams);
  const sessions = useQuery(queries.sessions);
  const cache = useQueryClient();
  const signOut = useSignOut();
  const [changing, setChanging] = useState(false);
  const end = useMutation({
    mutationFn: (id: string) => ask(api.DELETE("/api/sessions/{id}", { params: { path: { id } } })),
    onSuccess: (left) => cache.setQueryData(queries.sessions.queryKey, left),
  });
  if (!session) {
    return null;
  }
  const inTeams = [...new Set(session.inTeams.map((h) => h.team))].map(
    (team) =>
      `${rolesInWords(session.inTeams.filter((h) => h.team === team).map((h) => h.role))} in ${teams.data?.find((t) => t.id === team)?.name ?? "a team"}`,
  );
  return (
    <div className={classes.room}>
      <title>Your account · Golden Rule</title>
      <h1>Your account</h1>
      <p>
        {session.name}:{" "}
        {[...(session.roles.length > 0 ? [`${rolesInWords(session.roles)} everywhere`] : []), ...inTeams].join("; ") || "no role yet"}
      </p>
      <section aria-labelledby="own-password">
        <h2 id="own-password">Password</h2>
        <Button variant="default" onClick={() => setChanging(true)}>
          Change your password
        </Button>
      </section>
      <NoticesSheet />
      <TwoFactorSheet />
      <section aria-labelledby="own-sessions">
        <h2 id="own-sessions">Where you are signed in</h2>
        <Pending query={sessions} what="Your sessions" />
        {sessions.data && (
          <table className={classes.table}>
            <thead>
              <tr>
                <th scope="col">Browser</th>
                <th scope="col">Since</th>
                <th scope="col">Last seen</th>
                <th scope="col">
                  <span className="only-heard">End it</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {sessions.data.map((one) => (
                <tr key={one.id}>
                  <td>
                    {browserInWords(one.browser)} {one.here && <b>this one</b>}
                  </td>
                  <td>{dateAndTimeOf(one.begunAt)}</td>
                  <td>{dateAndTimeOf(one.seenAt)}</td>
                  <td>
                    <button type="button" className="plain underlined" onClick={() => (one.here ? signOut("here") : end.mutate(one.id))}>
                      {one.here ? "Sign out" : "End it"}
                      <span className="only-heard">, begun {dateAndTimeOf(one.begunAt)}</span>
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {end.error && <p role="alert">■ {end.error.message}</p>}
        <p>
          <Button variant="default" onClick={() => signOut("everywhere")}>
            Sign out everywhere
          </Button>
        </p>
      </section>
      {changing && <PasswordDialog onClose={() => setChanging(false)} />}
    </div>
  );
}
