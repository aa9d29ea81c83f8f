import { Button, Checkbox, NativeSelect } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Account, Role, Team } from "../../api/types";
import { ChangeLine } from "../../shared/ChangeLine";
import { dateAndTimeOf } from "../../shared/format";
import { toggled } from "../../shared/useLiveField";
import { type Setting, useSetting } from "../../shared/useSetting";
import { type PlanChange, usePlanChange } from "../plan/usePlanChange";
import { useSession } from "../session/useSession";
import { EraseDialog } from "./EraseDialog";
import classes from "./PeopleRoom.module.css";
import { roles, rolesInWords } from "./roleWords";

interface Props {
  account: Account;
  teams: Team[];
  others: Account[];
}

const path = (id: string) => ({ params: { path: { id } } });

/** One person: what they are everywhere and in each team, and whether they can sign in. */
export function PersonSide({ account, teams, others }: Props) {
  const plan = usePlanChange();
  const own = useSession().data?.id === account.id;
  const [handTo, setHandTo] = useState("");
  const [erasing, setErasing] = useState(false);
  const active = account.state !== "deactivated";
  const cache = useQueryClient();
  const held = useSetting(account.roles, async (next) => {
    // Against what is on the screen by then: of two ticks the first may just have been stored.
    const now = cache.getQueryData(queries.accounts.queryKey)?.find((a) => a.id === account.id) ?? account;
    const body = { roles: next, version: now.version };
    cache.setQueryData(queries.accounts.queryKey, await ask(api.PUT("/api/accounts/{id}/roles", { ...path(account.id), body })));
    return next;
  });
  return (
    <section className={classes.middle} aria-label={account.name}>
      <h2>{account.name}</h2>
      <p className="soft">
        {account.email}
        {account.twoFactor && ", signs in with two factors"}
        {account.lastSeen && `, last seen ${dateAndTimeOf(account.lastSeen)}`}
      </p>
      {account.state === "invited" && <Invited account={account} plan={plan} />}
      <h3>Everywhere</h3>
      <fieldset className={classes.roles}>
        <legend className="only-heard">Roles of {account.name} everywhere</legend>
        {roles.map(({ role, name, does }) => (
          <Checkbox
            key={role}
            label={name}
            description={does}
            checked={held.value.includes(role)}
            disabled={!active}
            onChange={() => toggle(role, held, plan, account.name, "everywhere")}
          />
        ))}
      </fieldset>
      <h3>In teams</h3>
      {teams.length === 0 ? (
        <p className="soft">There are no teams yet. They are made in Plan.</p>
      ) : (
        <table className={classes.grid}>
          <thead>
            <tr>
              <th scope="col">Team</th>
              {roles.map(({ role, name }) => (
                <th key={role} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {teams.map((team) => (
              <TeamRoles key={team.id} account={account} team={team} plan={plan} />
            ))}
          </tbody>
        </table>
      )}
      <ChangeLine {...plan} className={classes.said} />
      {account.state === "active" && !own && (
        <>
          <h3>Signing in</h3>
          <p>Deactivated, {account.name} is signed out everywhere at once and stays in histories.</p>
          <div className={classes.acts}>
            <NativeSelect
              label="Who answers for what they own from then on"
              value={handTo}
              onChange={(e) => setHandTo(e.currentTarget.value)}
              data={[
                { value: "", label: "Nobody else: it stays theirs" },
                ...others.filter((o) => o.id !== account.id && o.state === "active").map((o) => ({ value: o.id, label: o.name })),
              ]}
            />
            <Button
              variant="default"
              onClick={() =>
                plan.change({
                  said: `${account.name} is deactivated.`,
                  make: () => ask(api.POST("/api/accounts/{id}/deactivation", { ...path(account.id), body: { handTo: handTo || null } })),
                  undo: () => ask(api.DELETE("/api/accounts/{id}/deactivation", path(account.id))),
                })
              }
            >
              Deactivate
            </Button>
          </div>
        </>
      )}
      {account.state === "deactivated" && (
        <>
          <h3>Signing in</h3>
          <p>{account.name} cannot sign in.</p>
          <div className={classes.acts}>
            <Button
              variant="default"
              onClick={() =>
                plan.change({
                  said: `${account.name} can sign in again.`,
                  make: () => ask(api.DELETE("/api/accounts/{id}/deactivation", path(account.id))),
                })
              }
            >
              Reactivate
            </Button>
            <button type="button" className="plain underlined" onClick={() => setErasing(true)}>
              Erase name and address
            </button>
          </div>
        </>
      )}
      {erasing && (
        <EraseDialog
          account={account}
          onClose={() => setErasing(false)}
          onErase={() =>
            plan.change({
              said: `The name and address of ${account.name} are erased.`,
              make: () => ask(api.DELETE("/api/accounts/{id}", path(account.id))),
            })
          }
        />
      )}
    </section>
  );
}

/** Ticks a role or takes the tick away, and says so with what takes it back. */
function toggle(role: Role, held: Setting<Role[]>, plan: PlanChange, who: string, where: string) {
  const before = held.value;
  const next = toggled(before, role);
  const stored = held.set(next);
  const said = `${who} ${next.length > 0 ? "is" : "has"} ${rolesInWords(next)} ${where}.`;
  plan.change({ said, make: () => stored, undo: () => held.set(before) });
}

function TeamRoles({ account, team, plan }: { account: Account; team: Team; plan: PlanChange }) {
  const inTeam = account.inTeams.filter((h) => h.team === team.id).map((h) => h.role);
  const held = useSetting(inTeam, async (next) => {
    const params = { path: { id: team.id, person: account.id } };
    await ask(api.PUT("/api/teams/{id}/members/{person}", { params, body: { roles: next } }));
    return next;
  });
  return (
    <tr>
      <th scope="row">{team.name}</th>
      {roles.map(({ role, name }) => (
        <td key={role}>
          <Checkbox
            aria-label={`${name} in ${team.name}`}
            checked={held.value.includes(role)}
            disabled={account.state === "deactivated"}
            onChange={() => toggle(role, held, plan, account.name, `in ${team.name}`)}
          />
        </td>
      ))}
    </tr>
  );
}

function Invited({ account, plan }: { account: Account; plan: ReturnType<typeof usePlanChange> }) {
  return (
    <>
      <p>
        {account.mailProblem ? (
          <span role="alert">■ The invitation could not be sent: {account.mailProblem}</span>
        ) : account.invitationExpires ? (
          `Invited; the link in the mail works until ${dateAndTimeOf(account.invitationExpires)}.`
        ) : (
          "▲ The link in the invitation is too old to work. Send it again."
        )}
      </p>
      <div className={classes.acts}>
        <Button
          variant="default"
          onClick={() =>
            plan.change({
              said: `The invitation is on its way to ${account.email} again.`,
              make: () => ask(api.POST("/api/accounts/{id}/invitation", path(account.id))),
            })
          }
        >
          Send the invitation again
        </Button>
        <button
          type="button"
          className="plain underlined"
          onClick={() =>
            plan.change({
              said: `The invitation of ${account.name} is withdrawn.`,
              make: () => ask(api.DELETE("/api/accounts/{id}/invitation", path(account.id))),
            })
          }
        >
          Withdraw the invitation
        </button>
      </div>
    </>
  );
}
