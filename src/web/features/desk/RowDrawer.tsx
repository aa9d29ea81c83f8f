import { Drawer } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { DeskZone, RowOffer } from "../../api/types";
import { newId } from "../../shared/ids";
import { MailThumbnail } from "../../shared/MailThumbnail";
import classes from "./RowDrawer.module.css";
import { useDeskContext } from "./useDesk";

/** What a zone takes, and nothing else, with the lead's instructions. */
export function RowDrawer({ email, zone, index, onClose }: { email: string; zone: DeskZone; index: number; onClose: () => void }) {
  const { store, choose } = useDeskContext();
  const offers = useQuery({
    queryKey: ["offers", email, zone.id],
    queryFn: () => ask(api.GET("/api/emails/{id}/zones/{zone}/rows", { params: { path: { id: email, zone: zone.id } } })),
  });
  const add = (offer: RowOffer) => {
    const id = newId();
    store.edit({ kind: "insert-row", zone: zone.id, index, row: { id, master: offer.id, release: offer.release } });
    choose(id);
    onClose();
  };
  return (
    <Drawer
      opened
      onClose={onClose}
      title={`Add to ${zone.name}`}
      size={392}
      transitionProps={{ duration: 0 }}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      <p className="soft">
        {zone.rows.length} of {zone.most} places are taken. {zone.instruction}
      </p>
      {offers.error && <p role="alert">{offers.error.message}</p>}
      {offers.data?.length === 0 && <p>No saved row fits here yet. A designer can make one for this row kind.</p>}
      <ul className={classes.offers}>
        {offers.data?.map((offer) => (
          <li key={offer.id}>
            <button type="button" className={`plain ${classes.offer}`} onClick={() => add(offer)}>
              <MailThumbnail
                src={`/api/rows/${offer.id}/html?release=${offer.release}`}
                width={340}
                height={108}
                label={`${offer.name}, as it looks`}
              />
              <span className={classes.name}>
                {offer.name} <span className="soft">{offer.rowKind.replace("-", " ")}</span>
              </span>
              <span className={classes.instruction}>{offer.instruction ?? offer.description}</span>
            </button>
          </li>
        ))}
      </ul>
    </Drawer>
  );
}
