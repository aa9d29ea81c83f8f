import { Button, Checkbox, Menu, MultiSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { CampaignType, Team } from "../../api/types";
import { ChangeLine } from "../../shared/ChangeLine";
import { Pending } from "../../shared/Pending";
import { freeKeyOf } from "../../shared/technicalName";
import { WideTable } from "../../shared/WideTable";
import { useIsEverywhere } from "../session/useSession";
import { MoreMenu } from "./MoreMenu";
import { NameField } from "./NameField";
import { OrderButtons } from "./OrderButtons";
import classes from "./PlanRoom.module.css";
import { TypeSettings } from "./TypeSettings";
import { usePlanChange } from "./usePlanChange";

type Change = { name?: string; teams?: string[]; transactional?: boolean; retired?: boolean };

const put = (key: string, body: Change) =>
  ask(
    api.PUT("/api/campaign-types/{key}", {
      params: { path: { key } },
      body: { name: null, teams: null, transactional: null, retired: null, ...body },
    }),
  );

/** The campaign types: what they are called, which teams send them, and whether anything new is made for them. */
export function TypesSheet() {
  const leads = useIsEverywhere("lead");
  const types = useQuery(queries.campaignTypes);
  const teams = useQuery(queries.teams);
  const plan = usePlanChange();
  const [params] = useSearchParams();
  if (!types.data || !teams.data) {
    return <Pending query={types.data ? teams : types} what="The campaign types" />;
  }
  const all = types.data.filter((t) => !t.mergedInto);
  const set = (type: CampaignType, said: string, next: Change, before: Change) =>
    plan.change({ said, make: () => put(type.key, next), undo: () => put(type.key, before) });
  const opened = all.find((t) => t.key === params.get("type"));
  if (opened) {
    return <TypeSettings type={opened} teams={namesOf(opened.teams, teams.data)} />;
  }
  return (
    <div className={classes.sheet}>
      <p className={classes.about}>
        A campaign type is a sort of email that teams send. Roles in a team hold for its campaign types. What its emails need, from rows to
        link tracking, stands together under its settings.
      </p>
      <WideTable label="Campaign types" className={classes.table}>
        <thead>
          <tr>
            <th scope="col" className={classes.name}>
              Campaign type
            </th>
            <th scope="col">Sent by</th>
            <th scope="col">Transactional</th>
            <th scope="col">
              <span className="only-heard">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {all.map((type, at) => (
            <tr key={type.key} data-retired={type.retired}>
              <th scope="row">
                {leads ? (
                  <NameField
                    label={`Name of ${type.name}`}
                    name={type.name}
                    onRename={(name) => set(type, `${type.name} is called ${name} now.`, { name }, { name: type.name })}
                  />
                ) : (
                  type.name
                )}
                <span className="soft">
                  {type.key}
                  {type.retired && ", retired"}
                </span>
              </th>
              <td>
                {leads ? (
                  <MultiSelect
                    size="xs"
                    aria-label={`Teams that send ${type.name}`}
                    placeholder={type.teams.length === 0 ? "No team" : undefined}
                    data={teams.data.map((t) => ({ value: t.id, label: t.name }))}
                    value={type.teams}
                    onChange={(chosen) =>
                      set(type, `${type.name} is sent by ${namesOf(chosen, teams.data)}.`, { teams: chosen }, { teams: type.teams })
                    }
                  />
                ) : (
                  namesOf(type.teams, teams.data)
                )}
              </td>
              <td>
                <Checkbox
                  aria-label={`${type.name} is transactional`}
                  checked={type.transactional}
                  disabled={!leads}
                  onChange={() =>
                    set(
                      type,
                      `${type.name} is ${type.transactional ? "marketing" : "transactional"} now.`,
                      { transactional: !type.transactional },
                      { transactional: type.transactional },
                    )
                  }
                />
              </td>
              <td className={classes.acts}>
                <Link to={`/plan/campaign-types?type=${type.key}`} className="underlined">
                  Settings<span className="only-heard"> of {type.name}</span>
                </Link>
                {leads && (
                  <>
                    <OrderButtons
                      name={type.name}
                      keys={all.map((t) => t.key)}
                      at={at}
                      onOrder={(keys, before) =>
                        plan.change({
                          said: `${type.name} was moved.`,
                          make: () => ask(api.PUT("/api/campaign-types/order", { body: { keys } })),
                          undo: () => ask(api.PUT("/api/campaign-types/order", { body: { keys: before } })),
                        })
                      }
                    />
                    <MoreMenu
                      name={type.name}
                      others={all.filter((other) => other.key !== type.key && !other.retired)}
                      onMerge={(other) =>
                        plan.change({
                          said: `${type.name} is part of ${other.name} now, with its emails, templates and rows.`,
                          make: () =>
                            ask(
                              api.POST("/api/campaign-types/{key}/merge", {
                                params: { path: { key: type.key } },
                                body: { into: other.key },
                              }),
                            ),
                        })
                      }
                    >
                      <Menu.Item
                        onClick={() =>
                          set(
                            type,
                            `${type.name} is ${type.retired ? "offered again" : "retired: nothing new is made for it"}.`,
                            { retired: !type.retired },
                            { retired: type.retired },
                          )
                        }
                      >
                        {type.retired ? "Restore" : "Retire"}
                      </Menu.Item>
                    </MoreMenu>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </WideTable>
      {all.length === 0 && <p className={classes.about}>There are none yet. Add the first: a newsletter, an offer, a notice.</p>}
      <ChangeLine {...plan} className={classes.said} />
      {leads && <NewType teams={teams.data} plan={plan} taken={types.data.map((t) => t.key)} />}
    </div>
  );
}

const namesOf = (ids: string[], teams: Team[]) =>
  teams
    .filter((t) => ids.includes(t.id))
    .map((t) => t.name)
    .join(", ") || "no team";

function NewType({ teams, plan, taken }: { teams: Team[]; plan: ReturnType<typeof usePlanChange>; taken: string[] }) {
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<string[]>([]);
  const add = (event: FormEvent) => {
    event.preventDefault();
    const key = freeKeyOf(name, "campaign", taken);
    plan.change({
      said: `${name.trim()} is a campaign type now.`,
      make: async () => {
        await ask(api.POST("/api/campaign-types", { body: { key, name, teams: chosen, transactional: false } }));
        setName("");
      },
    });
  };
  return (
    <form className={classes.adding} onSubmit={add}>
      <TextInput label="New campaign type" required maxLength={60} value={name} onChange={(e) => setName(e.currentTarget.value)} />
      <MultiSelect
        label="Sent by"
        data={teams.map((t) => ({ value: t.id, label: t.name }))}
        value={chosen}
        onChange={setChosen}
        miw={220}
        placeholder={chosen.length === 0 ? "No team" : undefined}
      />
      <Button type="submit" variant="default" disabled={!name.trim() || plan.busy}>
        Add
      </Button>
    </form>
  );
}
