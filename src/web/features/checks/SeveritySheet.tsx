import { Fragment, useState } from "react";
import type { components } from "../../api/schema";
import type { CheckEntry } from "../../api/types";
import { CampaignTypeSelect, everywhere } from "./CampaignTypeSelect";
import classes from "./ChecksRoom.module.css";
import type { Policy } from "./useCheckPolicy";
import { groups } from "./words";

type Setting = components["schemas"]["Setting"];

const settings: Setting[] = ["stop", "warn", "advise", "off"];

/** How grave each check is, for all campaign types or for one. */
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
    <section aria-label="How grave">
      <p className={classes.about}>
        <CampaignTypeSelect value={type} onChange={setType} />{" "}
        <span className="soft">
          What stops keeps an email from going out. Where the law or the email's own integrity speaks, nothing is to be set.
          {!answer.mayChange && " Leads set the rest."}
        </span>
      </p>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">Check</th>
            <th scope="col">How grave</th>
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
                          <span>{check.usual}, always</span>
                        ) : (
                          <select
                            aria-label={`${check.label}, how grave`}
                            data-set={own !== undefined}
                            disabled={!answer.mayChange}
                            value={own ?? ""}
                            onChange={(e) => change(check.name, e.currentTarget.value)}
                          >
                            <option value="">{beneath ? `${beneath}, as for all` : `${check.usual}, as usual`}</option>
                            {settings.map((s) => (
                              <option key={s} value={s}>
                                {s}
                              </option>
                            ))}
                          </select>
                        )}
                      </td>
                      <td className="soft">{check.why}</td>
                    </tr>
                  );
                })}
            </Fragment>
          ))}
        </tbody>
      </table>
    </section>
  );
}
