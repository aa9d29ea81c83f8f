import { Button, Checkbox, MultiSelect, Radio, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { CampaignType, ReviewRule, Role } from "../../api/types";
import { useTypeSetting } from "../../shared/useTypeSetting";
import classes from "./TypeSettings.module.css";

type Need = ReviewRule["needs"][number];

const roles: { value: Role; label: string }[] = [
  { value: "lead", label: "Leads" },
  { value: "designer", label: "Designers" },
  { value: "author", label: "Authors" },
  { value: "reviewer", label: "Reviewers" },
];

/** Who approves the emails of a campaign type, and what becomes of an approval when something changes by itself. */
export function ReviewRuleFields({ type, mayChange }: { type: CampaignType; mayChange: boolean }) {
  const people = useQuery(queries.people);
  const {
    value: rule,
    write,
    ...setting
  } = useTypeSetting(
    type,
    { value: type.reviewRule, version: type.reviewRuleVersion },
    (now) => now.reviewRuleVersion,
    (body, header) => ask(api.PUT("/api/campaign-types/{key}/review-rule", { params: { path: { key: type.key }, header }, body })),
  );
  // What cannot hold yet, an approval that nobody can give, waits here until it can.
  const set = (next: ReviewRule) =>
    next.needs.every((n) => n.name.trim() && n.roles.length + n.people.length > 0) ? setting.set(next) : write(next);
  const change = (at: number, part: Partial<Need>) => set({ ...rule, needs: rule.needs.map((n, i) => (i === at ? { ...n, ...part } : n)) });
  return (
    <section aria-label="Who approves">
      <h3>Who approves</h3>
      <p className="soft">
        {rule.needs.length === 0
          ? "Nobody: whoever asks says that it is done."
          : "Each of these, by another person who did not write in the email; of several who may, one is enough."}
      </p>
      {rule.needs.map((need, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: an approval is known by its place until it has a name.
        <div key={at} className={classes.need}>
          <TextInput
            size="xs"
            label="Approval"
            disabled={!mayChange}
            maxLength={40}
            value={need.name}
            onChange={(e) => write({ ...rule, needs: rule.needs.map((n, i) => (i === at ? { ...n, name: e.currentTarget.value } : n)) })}
            onBlur={() => need.name !== type.reviewRule.needs[at]?.name && set(rule)}
          />
          <MultiSelect
            size="xs"
            label="By one of these roles"
            disabled={!mayChange}
            data={roles}
            value={need.roles}
            onChange={(next) => change(at, { roles: next as Role[] })}
          />
          <MultiSelect
            size="xs"
            label="or one of these people"
            disabled={!mayChange}
            searchable
            data={(people.data ?? []).map((p) => ({ value: p.id, label: p.name }))}
            value={need.people}
            onChange={(next) => change(at, { people: next })}
          />
          {mayChange && (
            <button
              type="button"
              className="plain underlined"
              onClick={() => set({ ...rule, needs: rule.needs.filter((_, i) => i !== at) })}
            >
              Remove<span className="only-heard"> {need.name}</span>
            </button>
          )}
          {need.roles.length + need.people.length === 0 && <p role="alert">▲ Choose a role or people: nobody can give it yet.</p>}
        </div>
      ))}
      {mayChange && (
        <Button size="xs" variant="default" onClick={() => write({ ...rule, needs: [...rule.needs, { name: "", roles: [], people: [] }] })}>
          Add an approval
        </Button>
      )}
      <Checkbox
        mt={12}
        label="Whoever asks says of each warning why it stays"
        disabled={!mayChange}
        checked={rule.answerWarnings}
        onChange={(e) => set({ ...rule, answerWarnings: e.currentTarget.checked })}
      />
      <Radio.Group
        mt={12}
        label="When a snippet, a picture or the house style changes what was approved"
        value={rule.overtaken}
        onChange={(next) => set({ ...rule, overtaken: next as ReviewRule["overtaken"] })}
      >
        <Radio value="ask-again" disabled={!mayChange} label="the approval is overtaken, and the same people are asked again" />
        <Radio value="carry-over" disabled={!mayChange} label="the approval carries over; what changed is shown" />
      </Radio.Group>
      {setting.fault && <p role="alert">■ {setting.fault}</p>}
    </section>
  );
}
