import classes from "./ChecksRoom.module.css";
import { HostList } from "./HostList";
import type { Policy } from "./useCheckPolicy";

/** The sites that links may lead to. */
export function HostsSheet({ policy }: { policy: Policy }) {
  const { answer } = policy;
  if (!answer) {
    return null;
  }
  const { hosts } = answer.policy;
  return (
    <section aria-label="Allowed sites" className={classes.hosts}>
      <p className={classes.about}>
        {hosts.length === 0
          ? "Links may lead to any site. Add the first, and a link to another one is a finding."
          : "A link to any other site is a finding. Subdomains count with their site."}
      </p>
      <HostList
        hosts={hosts}
        label="Site"
        mayChange={answer.mayChange}
        onChange={(next) => policy.set({ ...answer.policy, hosts: next })}
      />
    </section>
  );
}
