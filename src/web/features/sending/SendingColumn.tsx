import { Button } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { HandOff } from "../../api/types";
import { Pending } from "../../shared/Pending";
import { SendDialog } from "./SendDialog";
import classes from "./Sending.module.css";
import { SendPart } from "./SendPart";
import { WhereItWent } from "./WhereItWent";

/** What happens to a hand-off: sent in batches, and pushed to destinations. */
export function SendingColumn({ handOff }: { handOff: HandOff }) {
  const { id } = handOff.record;
  const sending = useQuery(queries.sending(id));
  const [asking, setAsking] = useState(false);
  if (!sending.data) {
    return <Pending query={sending} what="Where it goes" />;
  }
  const { sends, destinations, push } = sending.data;
  const mayBatch = destinations.some((d) => d.sendsInBatches);
  return (
    <div className={classes.column}>
      {sends.length === 0 && (
        <section aria-label="Sending">
          <h2>Sending</h2>
          <p className="soft">
            It was not sent from here.{" "}
            {mayBatch
              ? "Send it in batches, so that mailbox providers get used to it."
              : "A lead adds a sending platform or a mail server under Sending, Destinations."}
          </p>
        </section>
      )}
      {sends.map((send) => (
        <SendPart key={send.id} handOff={id} send={send} now={sending.data.now} may={push.allowed} />
      ))}
      {mayBatch && (
        <p>
          <Button
            variant={sends.length === 0 ? "filled" : "default"}
            disabled={!push.allowed}
            title={push.reason ?? ""}
            onClick={() => setAsking(true)}
          >
            {sends.length === 0 ? "Send in batches" : "Send to another list"}
          </Button>
          {!push.allowed && <span className="soft"> {push.reason}</span>}
        </p>
      )}
      <WhereItWent handOff={handOff} sending={sending.data} />
      {asking && <SendDialog handOff={id} destinations={destinations.filter((d) => d.sendsInBatches)} onClose={() => setAsking(false)} />}
    </div>
  );
}
