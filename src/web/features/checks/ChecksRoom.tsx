import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../../api/queries";
import { Pending } from "../../shared/Pending";
import { RoomHead } from "../../shared/RoomHead";
import { useIsEverywhere } from "../session/useSession";
import { AuditSheet } from "./AuditSheet";
import classes from "./ChecksRoom.module.css";
import { ClientMixSheet } from "./ClientMixSheet";
import { HostsSheet } from "./HostsSheet";
import { LinkTagsSheet } from "./LinkTagsSheet";
import { SendersSheet } from "./SendersSheet";
import { SeveritySheet } from "./SeveritySheet";
import { useCheckPolicy } from "./useCheckPolicy";

/** What is checked and how gravely, who reads with what, and the whole library looked through. */
export default function ChecksRoom() {
  const { part = "" } = useParams();
  const leads = useIsEverywhere("lead");
  const audits = useIsEverywhere("lead", "designer");
  const policy = useCheckPolicy();
  const checks = useQuery(queries.checks);
  const parts = [
    ...(audits ? [{ to: "audit", name: "Library audit" }] : []),
    { to: "severities", name: "Severity" },
    { to: "clients", name: "Mail clients" },
    { to: "hosts", name: "Allowed sites" },
    { to: "senders", name: "Allowed senders" },
    { to: "link-tags", name: "Link tracking" },
  ];
  const shown = parts.some((p) => p.to === part) ? part : parts[0]?.to;
  return (
    <div className={classes.room}>
      <RoomHead name="Checks" at="/checks" parts={parts} shown={shown}>
        <p className={classes.kept} role="status">
          <span>{policy.notice}</span>
          {policy.undo && (
            <button type="button" className="plain underlined" onClick={policy.undo}>
              Undo
            </button>
          )}
        </p>
      </RoomHead>
      {policy.fault && <p role="alert">{policy.fault}</p>}
      <div className={classes.scroll}>
        <Pending query={checks} what="The checks" />
        {shown === "audit" && <AuditSheet />}
        {policy.answer && checks.data && shown === "severities" && <SeveritySheet policy={policy} checks={checks.data} />}
        {policy.answer && shown === "clients" && <ClientMixSheet policy={policy} />}
        {shown === "link-tags" && <LinkTagsSheet mayChange={leads} />}
        {policy.answer && shown === "hosts" && <HostsSheet policy={policy} />}
        {policy.answer && shown === "senders" && <SendersSheet policy={policy} />}
      </div>
    </div>
  );
}
