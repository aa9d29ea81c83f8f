import { Button, Tooltip } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";
import { clockTime, countOf } from "../../shared/format";
import { keyNames } from "../../shared/keys";
import { lazily } from "../../shared/lazily";
import { Mark } from "../../shared/Mark";
import { severities } from "../../shared/SeverityMark";
import { ExportMenu } from "../emails/ExportMenu";
import { TextToolsMenu } from "../emails/TextToolsMenu";
import { PlannedRelease } from "../library/PlannedRelease";
import classes from "./DeskHeader.module.css";
import { blocksOf, type Desk, type DeskState } from "./DeskStore";
import { countToFill } from "./toFill";
import { useDeskContext } from "./useDesk";
import { initials } from "./usePresence";

const HistoryDialog = lazily(() => import("../emails/HistoryDialog"));
const UpdateDialog = lazily(() => import("../emails/UpdateDialog"));
const HandOffDialog = lazily(() => import("../hand-offs/HandOffDialog"));
const AskDialog = lazily(() => import("../review/AskDialog"));
const ReleaseDialog = lazily(() => import("../library/ReleaseDialog"));

const states = { draft: "draft", "in-review": "in review", approved: "approved", "handed-off": "handed off, frozen" };

/** The document's own line across the top. */
export function DeskHeader({ state }: { state: DeskState }) {
  const { store, fillNext } = useDeskContext();
  const [history, setHistory] = useState(false);
  const desk = state.desk;
  if (!desk) {
    return null;
  }
  const unfilled = countToFill(desk);
  return (
    <header className={classes.line}>
      <Link to={`/${store.kind}`} aria-label={`Golden Rule, to the ${store.kind}`} className={classes.mark}>
        <Mark />
      </Link>
      <Path desk={desk} />
      <Others />
      <span className={classes.kept} role="status" data-keeping={state.keeping}>
        {state.keeping === "waiting"
          ? "Offline. What you type waits here."
          : state.keeping === "sending"
            ? "Saving…"
            : `Saved ${clockTime(desk.keptAt)}`}
      </span>
      <span className={classes.moves}>
        <Tooltip label={`Undo, ${keyNames("Ctrl", "Z")}`}>
          <button type="button" className="plain" aria-label="Undo" disabled={!desk.canUndo} onClick={() => store.move("undo")}>
            ↶
          </button>
        </Tooltip>
        <Tooltip label={`Redo, ${keyNames("Ctrl", "Shift", "Z")}`}>
          <button type="button" className="plain" aria-label="Redo" disabled={!desk.canRedo} onClick={() => store.move("redo")}>
            ↷
          </button>
        </Tooltip>
      </span>
      {store.kind === "emails" && (
        <button type="button" className="plain underlined" onClick={() => setHistory(true)}>
          History
        </button>
      )}
      {unfilled > 0 && (
        <Tooltip label="Go to the next field to fill, F8">
          <button type="button" className={`plain underlined ${classes.unfilled}`} onClick={fillNext}>
            {filledOf(desk, unfilled)}
          </button>
        </Tooltip>
      )}
      <Findings state={state} desk={desk} />
      {desk.about ? (
        <MasterActs desk={desk} />
      ) : (
        <>
          <TextToolsMenu desk={desk} />
          <ExportMenu desk={desk} />
          <ReviewActs desk={desk} />
        </>
      )}
      {history && <HistoryDialog desk={desk} onClose={() => setHistory(false)} />}
    </header>
  );
}

/** How many findings there are of each severity, and the way to them. */
function Findings({ state, desk }: { state: DeskState; desk: Desk }) {
  const { choose } = useDeskContext();
  const toFill = desk.about ? forAuthors(state) : 0;
  const counts = (["stop", "warn", "advise"] as const)
    .map((severity) => ({ severity, count: desk.findings.filter((f) => f.severity === severity && !f.toFill).length }))
    .filter(({ count }) => count > 0)
    .map(({ severity, count }) => ({ severity, words: countOf(count, severities[severity].one, severities[severity].many) }));
  return (
    <button type="button" className={`plain ${classes.findings}`} onClick={() => choose("findings")}>
      {toFill > 0 && <span className={classes.unfilled}>{toFill} for authors to fill</span>}{" "}
      {desk.findings.length === 0 && <span>No findings</span>}
      {counts.map(({ severity, words }) => (
        <span key={severity} className={classes[severity]}>
          <span aria-hidden>{severities[severity].mark}</span> {words}{" "}
        </span>
      ))}
      <span className="only-heard">show the findings</span>
    </button>
  );
}

/** How far it is: "3 of 11 filled". */
const filledOf = ({ email }: Desk, unfilled: number) => {
  const all = Math.max(email?.fillable ?? 0, unfilled);
  return `${all - unfilled} of ${all} filled`;
};

/** What authors will meet in a row or template: how many of its blocks wait for their words. */
const forAuthors = ({ rows }: DeskState) => [...rows.values()].flatMap(blocksOf).filter((b) => b.placeholder).length;

function Path({ desk }: { desk: Desk }) {
  const { email, about } = desk;
  const template = email?.template;
  return (
    <div className={classes.path}>
      <title>{`${desk.name} · Golden Rule`}</title>
      {template ? (
        <Link to={`/templates?type=${template.campaignType}`}>{template.campaignTypeName}</Link>
      ) : (
        <Link to={desk.kind === "row" ? "/rows" : "/templates"}>{desk.kind === "row" ? "Rows" : "Templates"}</Link>
      )}
      <span aria-hidden>/</span>
      <h1>{desk.name}</h1>
      <span className={classes.from}>
        {template && (
          <>
            {states[desk.state]}, from {template.name} {template.release}
          </>
        )}
        {about &&
          (about.retired
            ? "retired"
            : about.release === 0
              ? "draft, no release yet"
              : about.changed
                ? `draft, ahead of release ${about.release}`
                : `release ${about.release}`)}
      </span>
      {about && <PlannedRelease desk={desk} />}
      {template?.updateWaits && <UpdateAvailable desk={desk} />}
    </div>
  );
}

/** A newer release of the template or of a row waits to be looked at. */
function UpdateAvailable({ desk }: { desk: Desk }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className={`plain underlined ${classes.waits}`} onClick={() => setOpen(true)}>
        {desk.email?.template.updateRequired ? "update must be taken" : "update available"}
      </button>
      {open && <UpdateDialog desk={desk} onClose={() => setOpen(false)} />}
    </>
  );
}

/** Who else has it open. */
function Others() {
  const { others, choose } = useDeskContext();
  const people = [...new Map(others.map((o) => [o.person, o])).values()];
  return people.length === 0 ? null : (
    <ul className={classes.others} aria-label="Also here">
      {people.map((other) => (
        <li key={other.person}>
          <Tooltip label={`${other.name} is here too. Go to where they are.`}>
            <button
              type="button"
              className="plain"
              aria-label={`${initials(other.name)}, ${other.name}, go to where they are`}
              onClick={() => choose(other.place.split("/")[0] ?? "details")}
            >
              {initials(other.name)}
            </button>
          </Tooltip>
        </li>
      ))}
    </ul>
  );
}

/** An email is asked about from here, and looked at with those who approve it. */
function ReviewActs({ desk }: { desk: Desk }) {
  const { store } = useDeskContext();
  const [asking, setAsking] = useState(false);
  const [handing, setHanding] = useState(false);
  const ask = async () => {
    // What was typed last is part of what is asked about.
    if (await store.stored()) {
      setAsking(true);
    } else {
      store.say("The server is out of reach. What you typed waits here; ask for approval when it is stored.");
    }
  };
  return (
    <>
      {desk.state === "draft" && <Button onClick={ask}>Ask for approval</Button>}
      {desk.state === "in-review" && (
        <Button component={Link} to={`/emails/${desk.id}/review`}>
          Review
        </Button>
      )}
      {desk.state === "approved" && (
        <>
          <Button variant="default" component={Link} to={`/emails/${desk.id}/review`}>
            Review
          </Button>
          <Button onClick={() => setHanding(true)}>Hand off</Button>
        </>
      )}
      {desk.state === "handed-off" && (
        <Button component={Link} to={`/emails/${desk.id}/hand-offs`}>
          Hand-off
        </Button>
      )}
      {asking && <AskDialog email={desk.id} onClose={() => setAsking(false)} />}
      {handing && <HandOffDialog email={desk.id} onClose={() => setHanding(false)} />}
    </>
  );
}

/** What a lead or designer does with a template or saved row as a whole. */
function MasterActs({ desk }: { desk: Desk }) {
  const { store } = useDeskContext();
  const [releasing, setReleasing] = useState(false);
  return (
    <>
      <Button variant="default" aria-pressed={desk.asAuthor} onClick={() => store.look(!desk.asAuthor)}>
        {desk.asAuthor ? "Back to my desk" : "See it as an author"}
      </Button>
      <Button disabled={desk.asAuthor || !desk.about?.changed} onClick={() => setReleasing(true)}>
        Release
      </Button>
      {releasing && <ReleaseDialog desk={desk} onClose={() => setReleasing(false)} />}
    </>
  );
}
