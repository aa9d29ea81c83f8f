import { NativeSelect } from "@mantine/core";
import { Fragment, useState } from "react";
import type { components } from "../../api/schema";
import type { CheckEntry } from "../../api/types";
import { severityNames } from "../../shared/SeverityMark";
import { WideTable } from "../../shared/WideTable";
import { CampaignTypeSelect, everywhere } from "./CampaignTypeSelect";
import classes from "./ChecksRoom.module.css";
import type { Policy } from "./useCheckPolicy";
import { groups } from "./words";

type Setting = components["schemas"]["Setting"];

const settings: Setting[] = ["stop", "warn", "advise", "off"];
const names: Record<Setting, string> = { ...severityNames, off: "Off" };

/** The severity of each check, for all campaign types or for one. */
export function SeveritySheet({ policy, checks }: { policy: Policy; checks: CheckEntry[] }) {
  const [type, setType] = useState(everywhere);
  const { answer, set } = policy;
  if (!answer) {
    return null;
  }
  const all = answer.policy.severities;
  const change = (check: string, to: string) => {
    const { [check]: _, ...rest } = all[type] ?? {};
    const here = to ? { ...rest, [check]: to as Setting } : rest;
    const { [type]: __, ...others } = all;
    set({ ...answer.policy, severities: Object.keys(here).length > 0 ? { ...others, [type]: here } : others });
  };
  return (
    <section aria-label="Severity">
      <div className={classes.about}>
        <CampaignTypeSelect value={type} onChange={setType} />
        <p className="soft">
          A blocker keeps an email from going out. Checks of the law, or of whether the email works at all, cannot be changed.
          {!answer.mayChange && " Leads set the rest."}
        </p>
      </div>
      <WideTable label="Severities" className={classes.table}>
        <thead>
          <tr>
            <th scope="col">Check</th>
            <th scope="col">Severity</th>
            <th scope="col">Why it matters</th>
          </tr>
        </thead>
        <tbody>
          {(Object.keys(groups) as (keyof typeof groups)[]).map((group) => (
            <Fragment key={group}>
              <tr>
                <th scope="rowgroup" colSpan={3} className={classes.group}>
                  {groups[group]}
                </th>
              </tr>
              {checks
                .filter((c) => c.group === group)
                .map((check) => {
                  const own = all[type]?.[check.name];
                  const beneath = type === everywhere ? undefined : all[everywhere]?.[check.name];
                  return (
                    <tr key={check.name}>
                      <th scope="row">{check.label}</th>
                      <td>
                        {check.fixed ? (
                          <span>{severityNames[check.usual]}, always</span>
                        ) : (
                          <NativeSelect
                            w={200}
                            aria-label={`${check.label}, severity`}
                            data-set={own !== undefined}
                            disabled={!answer.mayChange}
                            value={own ?? ""}
                            data={[
                              {
                                value: "",
                                label: beneath
                                  ? `${names[beneath]}, as for all campaign types`
                                  : `${severityNames[check.usual]}, by default`,
                              },
                              ...settings.map((s) => ({ value: s, label: names[s] })),
                            ]}
                            onChange={(e) => change(check.name, e.currentTarget.value)}
                          />
                        )}
                      </td>
                      <td className="soft">{check.why}</td>
                    </tr>
                  );
                })}
            </Fragment>
          ))}
        </tbody>
      </WideTable>
    </section>
  );
}
