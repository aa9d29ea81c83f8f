import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { Account } from "../../api/types";
import { lazily } from "../../shared/lazily";
import { Pending } from "../../shared/Pending";
import { SearchField } from "../../shared/SearchField";
import { useListFilters } from "../../shared/useListFilters";
import classes from "./PeopleRoom.module.css";
import { PersonSide } from "./PersonSide";
import { rolesInWords } from "./roleWords";

const InviteDialog = lazily(() => import("./InviteDialog"));

/** Everyone who can sign in or is invited to, and the one that is chosen. */
export function PeopleSheet() {
  const filters = useListFilters();
  const accounts = useQuery(queries.accounts);
  const teams = useQuery(queries.teams);
  const server = useQuery(queries.server);
  const [words, setWords] = useState("");
  const [inviting, setInviting] = useState(false);
  if (!accounts.data || !teams.data) {
    return <Pending query={accounts.data ? teams : accounts} what="The people" />;
  }
  const sought = words.trim().toLowerCase();
  const shown = accounts.data.filter((a) => `${a.name} ${a.email}`.toLowerCase().includes(sought));
  const chosen = accounts.data.find((a) => a.id === filters.of("person")) ?? shown[0];
  const teamName = (id: string) => teams.data.find((t) => t.id === id)?.name ?? "";
  return (
    <div className={classes.columns}>
      <section className={classes.list} aria-label="People">
        <div className={classes.bar}>
          <SearchField label="Find people" placeholder="Find by name or address" value={words} onChange={setWords} />
          <Button disabled={!server.data?.mail} onClick={() => setInviting(true)}>
            Invite
          </Button>
        </div>
        {server.data && !server.data.mail && (
          <p className={classes.about}>
            This server sends no mail, so nobody can be invited. Whoever runs it sets Mail:Host and Mail:From.
          </p>
        )}
        <ul>
          {shown.map((account) => (
            <li key={account.id}>
              <button
                type="button"
                className={`plain ${classes.entry}`}
                aria-current={account.id === chosen?.id}
                onClick={() => filters.set("person", account.id)}
              >
                <b>{account.name}</b>
                <span className={classes.state}>{stateOf(account)}</span>
                <span className={classes.note}>{whereInWords(account, teamName)}</span>
              </button>
            </li>
          ))}
        </ul>
        {shown.length === 0 && <p className={classes.about}>Nobody is called so. Clear the search to see all.</p>}
      </section>
      {chosen && <PersonSide key={chosen.id} account={chosen} teams={teams.data} others={accounts.data} />}
      {inviting && (
        <InviteDialog
          teams={teams.data}
          onClose={() => setInviting(false)}
          onInvited={(id) => {
            setInviting(false);
            filters.set("person", id);
          }}
        />
      )}
    </div>
  );
}

export function stateOf(account: Account): string {
  if (account.mailProblem) {
    return "■ mail not sent";
  }
  if (account.state === "invited") {
    return account.invitationExpires ? "invited" : "▲ invitation too old";
  }
  return account.state === "deactivated" ? "deactivated" : "";
}

function whereInWords(account: Account, teamName: (id: string) => string) {
  const teams = [...new Set(account.inTeams.map((held) => held.team))].map(
    (team) => `${rolesInWords(account.inTeams.filter((held) => held.team === team).map((held) => held.role))} in ${teamName(team)}`,
  );
  return [...(account.roles.length > 0 || teams.length === 0 ? [rolesInWords(account.roles)] : []), ...teams].join("; ");
}
