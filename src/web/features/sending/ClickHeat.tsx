import { SegmentedControl } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { HandOff, Returns } from "../../api/types";
import { FrozenFrame } from "../../shared/FrozenFrame";
import { countOf, numberOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import classes from "./Sending.module.css";

const widths = { desktop: 640, phone: 375 };
const percent = new Intl.NumberFormat(undefined, { style: "percent", maximumFractionDigits: 0 });

/** What readers did: counts laid over the email as it was frozen, with a plain table under it. */
export function ClickHeat({ handOff }: { handOff: HandOff }) {
  const { id } = handOff.record;
  const [view, setView] = useState<"desktop" | "phone" | "text">("desktop");
  const returns = useQuery(queries.returns(id));
  const html = useQuery(queries.handOffHtml(id));
  const text = useQuery({ ...queries.handOffText(id), enabled: view === "text" });
  const counts = returns.data?.counts;
  const came = counts && counts.sent + counts.bounced + counts.opened + counts.clicked + counts.scanned > 0;
  return (
    <section aria-label="What readers did" className={classes.heat}>
      <header>
        <h2>What readers did</h2>
        <span className="soft">counts only, no people</span>
      </header>
      {returns.data ? (
        <p role="status">{came ? <Counted returns={returns.data} /> : <span className="soft">Nothing came back yet.</span>}</p>
      ) : (
        <Pending query={returns} what="What came back" />
      )}
      <SegmentedControl
        size="xs"
        aria-label="As it is seen"
        value={view}
        onChange={(value) => setView(value as typeof view)}
        data={[
          { value: "desktop", label: "Desktop" },
          { value: "phone", label: "Phone" },
          { value: "text", label: "Plain text" },
        ]}
      />
      {view === "text" ? (
        text.data === undefined ? (
          <Pending query={text} what="The plain text" />
        ) : (
          <pre className={classes.text}>{text.data}</pre>
        )
      ) : html.data === undefined ? (
        <Pending query={html} what="The frozen email" />
      ) : (
        <Proof
          key={view}
          html={html.data}
          width={widths[view]}
          links={returns.data?.links ?? []}
          name={view === "phone" ? "Phone" : "Desktop"}
        />
      )}
      {came && <Clicks returns={returns.data as Returns} />}
    </section>
  );
}

function Counted({ returns: { counts } }: { returns: Returns }) {
  const of = (part: number) => (counts.sent > 0 ? ` (${percent.format(part / counts.sent)})` : "");
  return (
    <>
      {numberOf(counts.sent)} sent, {numberOf(counts.opened)} opened{of(counts.opened)}, {countOf(counts.clicked, "click")}
      {of(counts.clicked)}, {numberOf(counts.unsubscribed)} unsubscribed, {numberOf(counts.bounced)} bounced.
      {counts.scanned > 0 && <span className="soft"> {countOf(counts.scanned, "click")} of mail scanners are not among them.</span>}
    </>
  );
}

interface Spot {
  key: string;
  top: number;
  left: number;
  width: number;
  height: number;
  share: number;
  clicked: number;
}

function Proof({ html, width, links, name }: { html: string; width: number; links: Returns["links"]; name: string }) {
  const { ref, width: room } = useElementSize();
  const scale = Math.min(1, Math.max(0.2, room / width));
  const spots = (page: Document) => (
    <div aria-hidden className={classes.spots}>
      {spotsOf(page, links).map((spot) => (
        <span key={spot.key}>
          <i
            style={{
              top: spot.top * scale,
              left: spot.left * scale,
              width: spot.width * scale,
              height: spot.height * scale,
              opacity: 0.15 + 0.5 * spot.share,
            }}
          />
          <b style={{ top: Math.max(0, (spot.top + spot.height / 2) * scale - 9), right: 0 }}>
            {percent.format(spot.share)}
            {spot.share >= 0.2 && `, ${countOf(spot.clicked, "click")}`}
          </b>
        </span>
      ))}
    </div>
  );
  return (
    <div ref={ref} className={classes.proof}>
      {room > 0 && <FrozenFrame html={html} name={name} width={width} scale={scale} over={spots} />}
    </div>
  );
}

/** Where the links that were clicked stand on the page. */
function spotsOf(page: Document, links: Returns["links"]): Spot[] {
  const byAddress = new Map(links.filter((l) => l.clicked > 0).map((l) => [l.link.address, l]));
  const spots: Spot[] = [];
  for (const anchor of page.querySelectorAll("a[href]")) {
    const link = byAddress.get(anchor.getAttribute("href") ?? "");
    const box = anchor.getBoundingClientRect();
    if (link && box.width > 0 && box.height > 0) {
      byAddress.delete(link.link.address);
      const { top, left, width } = box;
      spots.push({ key: link.link.address, top, left, width, height: box.height, share: link.share, clicked: link.clicked });
    }
  }
  return spots;
}

function Clicks({ returns }: { returns: Returns }) {
  return (
    <table className={classes.table}>
      <caption>Clicks by link</caption>
      <thead>
        <tr>
          <th scope="col">Link</th>
          <th scope="col">Clicks</th>
          <th scope="col">Clicks by scanners</th>
        </tr>
      </thead>
      <tbody>
        {returns.links.map(({ link, clicked, scanned }) => (
          <tr key={link.address}>
            <td title={link.address}>
              {link.words || link.address} <span className="soft">{link.rowName}</span>
              {link.places > 1 && <span className="soft">, in {numberOf(link.places)} places</span>}
            </td>
            <td>{numberOf(clicked)}</td>
            <td>{numberOf(scanned)}</td>
          </tr>
        ))}
        {returns.elsewhere > 0 && (
          <tr>
            <td>Links that it does not have</td>
            <td>{numberOf(returns.elsewhere)}</td>
            <td />
          </tr>
        )}
      </tbody>
    </table>
  );
}
