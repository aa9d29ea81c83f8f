import { Link } from "react-router";
import type { RowEntry } from "../../api/types";
import { Thumbnail } from "../../shared/Thumbnail";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import classes from "./RowsRoom.module.css";
import { useRowKinds } from "./useRowKinds";

export const states = {
  draft: "Draft, no release yet",
  released: "Released",
  changed: "Draft ahead of its release",
  retired: "Retired",
} as const;

/** How it stands, with the release that authors get. */
function stateOf({ state, release }: RowEntry): string {
  switch (state) {
    case "draft":
      return states.draft;
    case "released":
      return `Release ${release}`;
    case "changed":
      return `Draft ahead of release ${release}`;
    case "retired":
      return release > 0 ? `Retired, release ${release}` : states.retired;
  }
}

interface Props {
  row: RowEntry;
  /** Whether whoever looks makes rows. */
  makes: boolean;
  onVariant: () => void;
}

/** A saved row in the library: as it looks, what it is for, and how it stands. */
export function RowItem({ row, makes, onVariant }: Props) {
  const types = useCampaignTypes();
  const kinds = useRowKinds();
  return (
    <article className={classes.row} aria-label={row.name}>
      <Thumbnail
        subject={{ kind: "row", id: row.id, draft: makes }}
        version={`${row.release}.${row.revision}`}
        width={240}
        height={140}
        fitted
        label={`${row.name}, as it looks`}
      />
      <div className={classes.about}>
        <h2>{makes ? <Link to={`/rows/${row.id}`}>{row.name}</Link> : row.name}</h2>
        <p className="soft">
          {kinds.nameOf(row.rowKind)} ·{" "}
          {row.campaignTypes.length === 0 ? "all campaign types" : row.campaignTypes.map(types.nameOf).join(", ")}
        </p>
        {row.varies && <p className="soft">Variant: {row.varies}</p>}
        <p>{row.description}</p>
        {row.instruction && <p className={classes.instruction}>{row.instruction}</p>}
        {makes && (
          <p className={classes.foot}>
            <span data-state={row.state}>
              {stateOf(row)}
              {row.private ? " · private" : ""}
            </span>
            <span className="soft">{row.mine ? "mine" : row.owner}</span>
            <button type="button" className="plain underlined" onClick={onVariant}>
              New variant
            </button>
          </p>
        )}
      </div>
    </article>
  );
}
