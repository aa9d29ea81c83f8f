import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { Navigate, useParams, useSearchParams } from "react-router";
import { queries } from "../../api/queries";
import { EditFault } from "../../shared/EditState";
import { clockTime } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { EditingContext } from "../../shared/useLiveField";
import { useSession } from "../session/useSession";
import { ContrastTable } from "./ContrastTable";
import { EmptyStart } from "./EmptyStart";
import { HouseStyleHead } from "./HouseStyleHead";
import classes from "./HouseStyleRoom.module.css";
import { NoStyleYet } from "./NoStyleYet";
import { ReleasePanel } from "./ReleasePanel";
import { type Open, RoomContext } from "./RoomContext";
import { SpecimenSheet } from "./SpecimenSheet";
import { StyleList } from "./StyleList";
import { touchedBy } from "./touchedBy";
import { useHouseStyle } from "./useHouseStyle";
import { VariableList } from "./VariableList";
import { useSpecimenPieces, WhyPanel } from "./WhyPanel";

/** Variables and global styles, the specimen sheet, and what can be read on what. */
export default function HouseStyleRoom() {
  const { id } = useParams();
  const all = useQuery(queries.houseStyles);
  if (!id) {
    const first = all.data?.[0];
    if (all.data && !first) {
      return <NoStyleYet />;
    }
    return first ? <Navigate to={`/house-style/${first.id}`} replace /> : <Pending query={all} what="The house styles" />;
  }
  return <Room key={id} id={id} />;
}

function Room({ id }: { id: string }) {
  const { style, edit, editAll, move, fault, offline, stuck, editing } = useHouseStyle(id, useSession().data?.id ?? "");
  const [search] = useSearchParams();
  const [open, show] = useState<Open>({ tab: "variables", variable: search.get("variable") ?? undefined });
  const [piece, setPiece] = useState<string>();
  const pieces = useSpecimenPieces();
  const data = style.data;
  // The same list until what it is made of changes: the specimen marks its pieces anew for each new one.
  const touched = useMemo(() => (data ? touchedBy(open, data, pieces.data ?? []) : []), [open, data, pieces.data]);
  const room = useMemo(() => data && { style: data, edit, editAll, fault, open, show }, [data, edit, editAll, fault, open]);
  const choose = useCallback(
    (next: string | undefined) => {
      setPiece(next);
      // A click in the specimen opens what it is styled by, as a click in a proof opens its field.
      const shows = pieces.data?.find((p) => p.piece === next)?.shows[0];
      if (shows) {
        show({ tab: "styles", style: shows.style, property: shows.property });
      }
    },
    [pieces.data],
  );
  if (!data || !room) {
    return <Pending query={style} what="The house style" />;
  }
  const empty = data.variables.length === 0 && data.styles.every((s) => s.properties.every((p) => p.written == null));
  return (
    <RoomContext value={room}>
      <EditingContext value={editing}>
        <div className={classes.room}>
          <title>{`${data.name}, house style · Golden Rule`}</title>
          <div className={classes.values}>
            <HouseStyleHead move={move} />
            {fault?.target === "" && <EditFault fault={fault} stuck={stuck} move={move} />}
            {offline && (
              <p role="status" className={classes.fault}>
                Offline. What you set waits here and is sent again.
              </p>
            )}
            {!data.mayEdit && <p className={classes.note}>Leads change the house style. You see what it holds.</p>}
            {empty && data.mayEdit ? <EmptyStart /> : open.tab === "variables" ? <VariableList /> : <StyleList />}
          </div>
          <SpecimenSheet sheet={data.specimen} kept={clockTime(data.keptAt)} piece={piece} touched={touched} onPiece={choose} />
          <aside className={classes.side} aria-label="Why, legibility and release">
            {piece && <WhyPanel piece={piece} onClose={() => setPiece(undefined)} />}
            <ContrastTable />
            <ReleasePanel />
          </aside>
        </div>
      </EditingContext>
    </RoomContext>
  );
}
