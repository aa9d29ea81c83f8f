import { Button, Checkbox, NativeSelect } from "@mantine/core";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { Account, Role, Team } from "../../api/types";
import { ChangeLine } from "../../shared/ChangeLine";
import { dateAndTimeOf } from "../../shared/format";
import { toggled } from "../../shared/useLiveField";
import { usePlanChange } from "../plan/usePlanChange";
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
  // Of the newest: what takes it back is said of whoever they are by then.
  const setRoles = async (next: Role[]) => {
    const now = (await ask(api.GET("/api/accounts"))).find((a) => a.id === account.id) ?? account;
    await ask(api.PUT("/api/accounts/{id}/roles", { ...path(account.id), body: { roles: next, version: now.version } }));
  };
  const everywhere = (role: Role) => {
    const next = toggled(account.roles, role);
    plan.change({
      said: `${account.name} is ${rolesInWords(next)} everywhere.`,
      make: () => ask(api.PUT("/api/accounts/{id}/roles", { ...path(account.id), body: { roles: next, version: account.version } })),
      undo: () => setRoles(account.roles),
    });
  };
  const inTeam = (team: Team, role: Role) => {
    const held = account.inTeams.filter((h) => h.team === team.id).map((h) => h.role);
    const put = (next: Role[]) =>
      ask(
        api.PUT("/api/teams/{id}/members/{person}", {
          params: { path: { id: team.id, person: account.id } },
          body: { roles: next },
        }),
      );
    const next = toggled(held, role);
    plan.change({
      said: `${account.name} is ${rolesInWords(next)} in ${team.name}.`,
      make: () => put(next),
      undo: () => put(held),
    });
  };
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
            checked={account.roles.includes(role)}
            disabled={!active}
            onChange={() => everywhere(role)}
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
              <tr key={team.id}>
                <th scope="row">{team.name}</th>
                {roles.map(({ role, name }) => (
                  <td key={role}>
                    <Checkbox
                      aria-label={`${name} in ${team.name}`}
                      checked={account.inTeams.some((h) => h.team === team.id && h.role === role)}
                      disabled={!active}
                      onChange={() => inTeam(team, role)}
                    />
                  </td>
                ))}
              </tr>
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
