import { useParams } from "react-router";
import { RoomHead } from "../../shared/RoomHead";
import { useIsEverywhere } from "../session/useSession";
import { DestinationsSheet } from "./DestinationsSheet";
import { ReturnsSheet } from "./ReturnsSheet";
import classes from "./Sending.module.css";
import { TokensSheet } from "./TokensSheet";
import { WebhooksSheet } from "./WebhooksSheet";

const forAll = [{ to: "returns", name: "What came back" }] as const;
const forLeads = [
  ...forAll,
  { to: "destinations", name: "Destinations" },
  { to: "webhooks", name: "Webhooks" },
  { to: "tokens", name: "API tokens" },
] as const;

/** Where emails go, who may fetch them, and what came back. */
export default function SendingRoom() {
  const { part } = useParams();
  const leads = useIsEverywhere("lead");
  const parts = leads ? forLeads : forAll;
  const shown = parts.find((p) => p.to === part)?.to ?? "returns";
  return (
    <div className={classes.room}>
      <RoomHead name="Sending" at="/sending" parts={[...parts]} shown={shown} />
      <div className={classes.scroll}>
        {shown === "returns" && <ReturnsSheet />}
        {shown === "destinations" && <DestinationsSheet />}
        {shown === "webhooks" && <WebhooksSheet />}
        {shown === "tokens" && <TokensSheet />}
      </div>
    </div>
  );
}
