import { NativeSelect, SegmentedControl } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { CampaignType, CoverageCell } from "../../api/types";
import { Pending } from "../../shared/Pending";
import { severityNames } from "../../shared/SeverityMark";
import { useSetting } from "../../shared/useSetting";
import { HostsSheet } from "../checks/HostsSheet";
import { LinkTags } from "../checks/LinkTags";
import { SendersOf } from "../checks/SendersSheet";
import { type Policy, useCheckPolicy } from "../checks/useCheckPolicy";
import { useRowKinds } from "../rows/useRowKinds";
import { useIsEverywhere } from "../session/useSession";
import { ReviewRuleFields } from "./ReviewRuleFields";
import classes from "./TypeSettings.module.css";

/** All that holds for the emails of one campaign type, in one place. */
export function TypeSettings({ type, teams }: { type: CampaignType; teams: string }) {
  const leads = useIsEverywhere("lead");
  const policy = useCheckPolicy();
  return (
    <div className={classes.sheet}>
      <p>
        <Link to="/plan/campaign-types" className="underlined">
          All campaign types
        </Link>
      </p>
      <header className={classes.head}>
        <h2>{type.name}</h2>
        <p className="soft">
          {type.transactional ? "Transactional" : "Marketing"}, sent by {teams}
          {type.retired && ", retired"}
        </p>
        <p className={classes.saved} role="status">
          {policy.notice}{" "}
          {policy.undo && (
            <button type="button" className="plain underlined" onClick={policy.undo}>
              Undo
            </button>
          )}
        </p>
      </header>
      {policy.fault && <p role="alert">{policy.fault}</p>}
      <Needs type={type} />
      <ReviewRuleFields type={type} mayChange={leads} />
      <Severities type={type} policy={policy} />
      <section aria-label="Allowed senders">
        <h3>Allowed senders</h3>
        <SendersOf type={type.key} policy={policy} />
      </section>
      <section aria-label="Allowed sites">
        <h3>Allowed sites</h3>
        <p className="soft">For all campaign types.</p>
        <HostsSheet policy={policy} />
      </section>
      <section aria-label="Link tracking">
        <h3>Link tracking</h3>
        <p className="soft">
          Names and values that addresses get when an email goes out. A value may name {"{campaign}"}, {"{type}"}, {"{day}"} and {"{row}"}.
        </p>
        <div className={classes.tags}>
          <LinkTags type={type} mayChange={leads} />
        </div>
      </section>
    </div>
  );
}

const needs = [
  { value: "needed", label: "Needed" },
  { value: "not-needed", label: "Not needed" },
  { value: "open", label: "Not planned" },
];

const needOf = (cell: CoverageCell) => (cell.needed == null ? "open" : cell.needed ? "needed" : "not-needed");

/** Which row kinds its emails have to have. */
function Needs({ type }: { type: CampaignType }) {
  const coverage = useQuery(queries.coverage);
  return (
    <section aria-label="Row kinds">
      <h3>Row kinds</h3>
      <Pending query={coverage} what="The coverage" />
      <ul className={classes.kinds}>
        {coverage.data?.cells
          .filter((c) => c.campaignType === type.key)
          .map((cell) => (
            <NeedOf key={cell.rowKind} cell={cell} mayChange={type.mayMake} />
          ))}
      </ul>
    </section>
  );
}

function NeedOf({ cell, mayChange }: { cell: CoverageCell; mayChange: boolean }) {
  const cache = useQueryClient();
  const name = useRowKinds().nameOf(cell.rowKind);
  const { value, set, fault } = useSetting(needOf(cell), async (need) => {
    const { campaignType, rowKind } = cell;
    const needed = need === "open" ? null : need === "needed";
    cache.setQueryData(queries.coverage.queryKey, await ask(api.PUT("/api/coverage/needs", { body: { campaignType, rowKind, needed } })));
    return need;
  });
  return (
    <li>
      <b>{name}</b>
      <SegmentedControl size="xs" aria-label={`${name} rows`} data={needs} disabled={!mayChange} value={value} onChange={set} />
      <span className="soft">
        {cell.rows.length > 0 ? cell.rows.map((r) => r.name).join(", ") : cell.state === "missing" ? "■ no row serves it" : "no row"}
      </span>
      {fault && <p role="alert">■ {fault}</p>}
    </li>
  );
}

const settings = ["stop", "warn", "advise", "off"] as const;
const names: Record<string, string> = { ...severityNames, off: "Off" };

/** The checks that are set for it otherwise than for all. */
function Severities({ type, policy }: { type: CampaignType; policy: Policy }) {
  const checks = useQuery(queries.checks);
  const [adding, setAdding] = useState("");
  const { answer } = policy;
  if (!answer || !checks.data) {
    return <Pending query={checks} what="The checks" />;
  }
  const { [type.key]: own = {}, ...others } = answer.policy.severities;
  const change = (check: string, to: string) => {
    const { [check]: _, ...rest } = own;
    const here = to ? { ...rest, [check]: to as (typeof settings)[number] } : rest;
    policy.set({ ...answer.policy, severities: Object.keys(here).length > 0 ? { ...others, [type.key]: here } : others });
  };
  const set = checks.data.filter((c) => own[c.name] || c.name === adding);
  const free = checks.data.filter((c) => !c.fixed && !own[c.name]);
  return (
    <section aria-label="Severity">
      <h3>Severity</h3>
      <p className="soft">
        {Object.keys(own).length === 0
          ? "Every check is as for all campaign types."
          : "These checks are otherwise than for all campaign types."}{" "}
        <Link to="/checks/severities" className="underlined">
          All checks
        </Link>
      </p>
      <ul className={classes.kinds}>
        {set.map((check) => (
          <li key={check.name}>
            <b>{check.label}</b>
            <NativeSelect
              size="xs"
              aria-label={`${check.label}, severity`}
              disabled={!answer.mayChange}
              data={[{ value: "", label: "As for all campaign types" }, ...settings.map((s) => ({ value: s, label: names[s] ?? s }))]}
              value={own[check.name] ?? ""}
              onChange={(e) => change(check.name, e.currentTarget.value)}
            />
          </li>
        ))}
      </ul>
      {answer.mayChange && (
        <NativeSelect
          size="xs"
          w={380}
          aria-label="Set another check"
          data={[{ value: "", label: "Set another check…" }, ...free.map((c) => ({ value: c.name, label: c.label }))]}
          value=""
          onChange={(e) => setAdding(e.currentTarget.value)}
        />
      )}
    </section>
  );
}
