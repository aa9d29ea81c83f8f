import { Drawer } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import type { DeskZone, RowOffer } from "../../../api/types";
import { newId } from "../../../shared/ids";
import { Thumbnail } from "../../../shared/Thumbnail";
import { useRowKinds } from "../../rows/useRowKinds";
import { askOffers } from "../askDesk";
import type { Desk } from "../DeskStore";
import { LayoutDrawing, layouts } from "../look/layouts";
import { useDeskContext } from "../useDesk";
import classes from "./RowDrawer.module.css";

const everything = { arrangement: { kind: "open" }, content: { kind: "open" }, look: { kind: "open" } } as const;

/** What a place takes, and nothing else, with the lead's instructions: saved rows, a row of one's own, in a template a zone. */
export function RowDrawer({ desk, zone, index, onClose }: { desk: Desk; zone?: DeskZone; index: number; onClose: () => void }) {
  const { store, choose } = useDeskContext();
  const kinds = useRowKinds();
  const offers = useQuery({
    queryKey: ["offers", desk.id, desk.revision, zone?.id],
    queryFn: () => askOffers(store.kind, desk.id, zone?.id),
  });
  const builds = desk.kind === "template" || zone?.ownRows;
  const done = (id: string) => {
    choose(id);
    onClose();
  };
  const add = (offer: RowOffer) => {
    const id = newId();
    store.edit({ kind: "insert-row", zone: zone?.id ?? null, index, row: { id, master: offer.id, release: offer.release } });
    done(id);
  };
  const build = (parts: number[]) => {
    const id = newId();
    const rowKind = zone?.terms?.accepts?.[0] ?? (zone && offers.data?.[0]?.rowKind) ?? kinds.usual;
    // What someone builds in an email is open to whoever may edit it; where a lead builds, the rules are set after.
    const locks = desk.kind === "email" ? { locks: everything } : {};
    store.edit({
      kind: "insert-row",
      zone: zone?.id ?? null,
      index,
      row: {
        id,
        own: { name: "New row", rowKind, row: { id: newId(), columns: parts.map((p) => ({ id: newId(), parts: p })), ...locks } },
      },
    });
    done(id);
  };
  const openZone = () => {
    const id = newId();
    store.edit({ kind: "insert-zone", index, zone: { id, name: "New zone", accepts: ["main"], least: 1, most: 6 } });
    done(id);
  };
  return (
    <Drawer
      opened
      onClose={onClose}
      title={zone ? `Add to ${zone.name}` : "Add to the running order"}
      size={392}
      transitionProps={{ duration: 0 }}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      {zone && (
        <p className="soft">
          {zone.rows.length} of {zone.most} places are taken. {zone.instruction}
        </p>
      )}
      {!zone && (
        <section className={classes.part}>
          <h3>Zone</h3>
          <button type="button" className={`plain ${classes.zone}`} onClick={openZone}>
            <b>Add a zone here</b>
            <span>A place where authors put rows: you say which and how many.</span>
          </button>
        </section>
      )}
      {builds && (
        <section className={classes.part}>
          <h3>Empty row</h3>
          <ul className={classes.layouts}>
            {layouts.map((layout) => (
              <li key={layout.name}>
                <button type="button" className={`plain ${classes.layout}`} onClick={() => build(layout.parts)}>
                  <LayoutDrawing parts={layout.parts} />
                  {layout.name}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      {builds && <h3>Saved rows</h3>}
      {offers.error && <p role="alert">{offers.error.message}</p>}
      {offers.data?.length === 0 && <p>No saved row fits here yet. A designer can make one for this row kind, in Rows.</p>}
      <ul className={classes.offers}>
        {offers.data?.map((offer) => (
          <li key={offer.id}>
            <button type="button" className={`plain ${classes.offer}`} onClick={() => add(offer)}>
              <Thumbnail
                subject={{ kind: "row", id: offer.id, draft: false }}
                version={`${offer.release}`}
                width={340}
                height={108}
                fitted
                label=""
              />
              <span className={classes.name}>
                {offer.name} <span className="soft">{kinds.nameOf(offer.rowKind)}</span>
              </span>
              <span className={classes.instruction}>{offer.instruction ?? offer.description}</span>
            </button>
          </li>
        ))}
      </ul>
    </Drawer>
  );
}
