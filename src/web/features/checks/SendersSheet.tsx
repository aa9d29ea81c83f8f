import { useState } from "react";
import { CampaignTypeSelect, everywhere } from "./CampaignTypeSelect";
import classes from "./ChecksRoom.module.css";
import { HostList } from "./HostList";
import type { Policy } from "./useCheckPolicy";

/** The domains that emails are sent from, for all campaign types or for one. */
export function SendersSheet({ policy }: { policy: Policy }) {
  const [type, setType] = useState(everywhere);
  return (
    <section aria-label="Allowed senders">
      <div className={classes.about}>
        <CampaignTypeSelect value={type} onChange={setType} />
      </div>
      <SendersOf type={type} policy={policy} />
    </section>
  );
}

export function SendersOf({ type, policy }: { type: string; policy: Policy }) {
  const { answer } = policy;
  if (!answer) {
    return null;
  }
  const { senders } = answer.policy;
  const own = senders[type];
  const shared = senders[everywhere];
  const change = (domains: string[]) => {
    const { [type]: _, ...others } = senders;
    policy.set({ ...answer.policy, senders: domains.length > 0 ? { ...others, [type]: domains } : others });
  };
  return (
    <div className={classes.hosts}>
      <div className={classes.about}>
        <p className="soft">
          {own
            ? "An address of any other domain is a finding. Subdomains count with their domain."
            : type !== everywhere && shared
              ? `As for all campaign types: ${shared.join(", ")}. Add a domain, and only what is listed here holds.`
              : "Emails may be sent from any domain. Add the first, and an address of another one is a finding."}
        </p>
      </div>
      <HostList key={type} hosts={own ?? []} label="Domain" mayChange={answer.mayChange} onChange={change} />
    </div>
  );
}
