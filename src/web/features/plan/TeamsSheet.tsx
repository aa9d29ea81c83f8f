import { Button, Menu, NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Team } from "../../api/types";
import { ChangeLine } from "../../shared/ChangeLine";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { WideTable } from "../../shared/WideTable";
import { rolesInWords } from "../people/roleWords";
import { useIsEverywhere } from "../session/useSession";
import { MoreMenu } from "./MoreMenu";
import { NameField } from "./NameField";
import { OrderButtons } from "./OrderButtons";
import classes from "./PlanRoom.module.css";
import { usePlanChange } from "./usePlanChange";

const forOthers = [
  { value: "read-only", label: "read its emails" },
  { value: "hidden", label: "do not see its emails" },
];

const put = (id: string, body: Partial<Pick<Team, "name" | "forOthers">>) =>
  ask(api.PUT("/api/teams/{id}", { params: { path: { id } }, body: { name: null, forOthers: null, ...body } }));

/** The teams: what each sends, who is in it as what, and whether the others see its emails. */
export function TeamsSheet() {
  const leads = useIsEverywhere("lead");
  const teams = useQuery(queries.teams);
  const types = useCampaignTypes();
  const plan = usePlanChange();
  if (!teams.data || !types.here) {
    return <Pending query={teams} what="The teams" />;
  }
  const all = teams.data;
  return (
    <div className={classes.sheet}>
      <p className={classes.about}>
        Authors of a team write the emails of its campaign types, its designers make their templates and rows. Whoever has a role everywhere
        needs none here. Who is in which team is set with each person, in People.
      </p>
      <WideTable label="Teams" className={classes.table}>
        <thead>
          <tr>
            <th scope="col" className={classes.name}>
              Team
            </th>
            <th scope="col">Sends</th>
            <th scope="col">People outside it</th>
            <th scope="col">People</th>
            <th scope="col">
              <span className="only-heard">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {all.map((team, at) => (
            <tr key={team.id}>
              <th scope="row">
                {leads ? (
                  <NameField
                    label={`Name of ${team.name}`}
                    name={team.name}
                    onRename={(name) =>
                      plan.change({
                        said: `${team.name} is called ${name} now.`,
                        make: () => put(team.id, { name }),
                        undo: () => put(team.id, { name: team.name }),
                      })
                    }
                  />
                ) : (
                  team.name
                )}
              </th>
              <td>{team.campaignTypes.map(types.nameOf).join(", ") || <span className="soft">nothing yet</span>}</td>
              <td>
                <NativeSelect
                  size="xs"
                  aria-label={`People outside ${team.name}`}
                  data={forOthers}
                  disabled={!leads}
                  value={team.forOthers}
                  onChange={(e) => {
                    const next = e.currentTarget.value as Team["forOthers"];
                    plan.change({
                      said: `People outside ${team.name} ${forOthers.find((f) => f.value === next)?.label}.`,
                      make: () => put(team.id, { forOthers: next }),
                      undo: () => put(team.id, { forOthers: team.forOthers }),
                    });
                  }}
                />
              </td>
              <td>
                <ul className={classes.members}>
                  {team.members.map((member) => (
                    <li key={member.person}>
                      {leads ? <Link to={`/people?person=${member.person}`}>{member.name}</Link> : member.name},{" "}
                      <span className="soft">{rolesInWords(member.roles)}</span>
                    </li>
                  ))}
                </ul>
              </td>
              <td className={classes.acts}>
                {leads && (
                  <>
                    <OrderButtons
                      name={team.name}
                      keys={all.map((t) => t.id)}
                      at={at}
                      onOrder={(ids, before) =>
                        plan.change({
                          said: `${team.name} was moved.`,
                          make: () => ask(api.PUT("/api/teams/order", { body: { ids } })),
                          undo: () => ask(api.PUT("/api/teams/order", { body: { ids: before } })),
                        })
                      }
                    />
                    <MoreMenu
                      name={team.name}
                      others={all.filter((other) => other.id !== team.id).map((other) => ({ key: other.id, name: other.name }))}
                      onMerge={(other) =>
                        plan.change({
                          said: `${team.name} is part of ${other.name} now, with its campaign types and its people.`,
                          make: () =>
                            ask(api.POST("/api/teams/{id}/merge", { params: { path: { id: team.id } }, body: { into: other.key } })),
                        })
                      }
                    >
                      <Menu.Item
                        onClick={() =>
                          plan.change({
                            said: `${team.name} is removed.`,
                            make: () => ask(api.DELETE("/api/teams/{id}", { params: { path: { id: team.id } } })),
                          })
                        }
                      >
                        Remove
                      </Menu.Item>
                    </MoreMenu>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </WideTable>
      {all.length === 0 && <p className={classes.about}>There are none yet. Without teams, roles hold everywhere and everyone sees all.</p>}
      <ChangeLine {...plan} className={classes.said} />
      {leads && <NewTeam plan={plan} />}
    </div>
  );
}

function NewTeam({ plan }: { plan: ReturnType<typeof usePlanChange> }) {
  const [name, setName] = useState("");
  const add = (event: FormEvent) => {
    event.preventDefault();
    const id = newId();
    plan.change({
      said: `${name.trim()} is a team now.`,
      make: async () => {
        await ask(api.POST("/api/teams", { body: { id, name } }));
        setName("");
      },
      undo: () => ask(api.DELETE("/api/teams/{id}", { params: { path: { id } } })),
    });
  };
  return (
    <form className={classes.adding} onSubmit={add}>
      <TextInput label="New team" required maxLength={60} value={name} onChange={(e) => setName(e.currentTarget.value)} />
      <Button type="submit" variant="default" disabled={!name.trim() || plan.busy}>
        Add
      </Button>
    </form>
  );
}
