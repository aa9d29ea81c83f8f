import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { queries } from "../../api/queries";
import { countOf, numberOf, pluralOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { ReachBreaks } from "../../shared/ReachBreaks";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { useIsEverywhere } from "../session/useSession";
import classes from "./ReleasePanel.module.css";
import { useRoom } from "./RoomContext";

/** Whom a release would reach, at once; and what it would break, as it is found. */
export function ReachList() {
  const { style } = useRoom();
  const makes = useIsEverywhere("lead", "designer");
  const reach = useInfiniteQuery({ ...queries.reach(style.id, style.release), enabled: style.release > 0 });
  const types = useCampaignTypes();
  const [listed, setListed] = useState(false);
  if (style.release === 0) {
    return <p className="soft">Nothing uses it yet, so nothing changes.</p>;
  }
  const first = reach.data?.pages[0];
  if (!first) {
    return <Pending query={reach} what="The emails it reaches" />;
  }
  return (
    <>
      <ul className={classes.reach}>
        <li>
          <b>{numberOf(first.follow)}</b> {pluralOf(first.follow, "email follows", "emails follow")} at once
        </li>
        <li>
          <b>{numberOf(first.frozen)}</b>{" "}
          {pluralOf(first.frozen, "is handed off and stays as it is", "are handed off and stay as they are")}
        </li>
        {makes && first.follow > 0 && (
          <li>
            <ReachBreaks room="house-styles" id={style.id} version={`${style.revision}.${style.release}`} />
          </li>
        )}
      </ul>
      {first.follow + first.frozen > 0 && (
        <button type="button" className="plain underlined" aria-expanded={listed} onClick={() => setListed(!listed)}>
          Which emails
        </button>
      )}
      {listed && (
        <div className={classes.reached}>
          <p className="soft">{first.groups.map((g) => `${types.nameOf(g.campaignType)} ${numberOf(g.follow + g.frozen)}`).join(", ")}</p>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keys too. */}
          <ul aria-label="Emails it reaches" tabIndex={0}>
            {reach.data?.pages
              .flatMap((p) => p.emails)
              .map((e) => (
                <li key={e.id}>
                  <Link to={`/emails/${e.id}`}>{e.name}</Link>
                  {!e.follows && <span className="soft"> handed off</span>}
                </li>
              ))}
          </ul>
          {reach.hasNextPage && (
            <button type="button" className="plain underlined" disabled={reach.isFetching} onClick={() => reach.fetchNextPage()}>
              Show more
            </button>
          )}
        </div>
      )}
      {first.unread > 0 && (
        <p role="status">{countOf(first.unread, "document is", "documents are")} still being read after the update; there may be more.</p>
      )}
    </>
  );
}

/** Every email is drawn and checked anew for it, so it is asked for once the values rest. */
