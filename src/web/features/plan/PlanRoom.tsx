import { useParams } from "react-router";
import { RoomHead } from "../../shared/RoomHead";
import { CoverageSheet } from "./CoverageSheet";
import { KindsSheet } from "./KindsSheet";
import classes from "./PlanRoom.module.css";
import { TeamsSheet } from "./TeamsSheet";
import { TypesSheet } from "./TypesSheet";

const parts = [
  { to: "coverage", name: "Coverage" },
  { to: "campaign-types", name: "Campaign types" },
  { to: "row-kinds", name: "Row kinds" },
  { to: "teams", name: "Teams" },
] as const;

const sheets = {
  coverage: <CoverageSheet />,
  "campaign-types": <TypesSheet />,
  "row-kinds": <KindsSheet />,
  teams: <TeamsSheet />,
};

/** Who sends what, and which rows that needs. */
export default function PlanRoom() {
  const { part } = useParams();
  const shown = parts.find((p) => p.to === part)?.to ?? "coverage";
  return (
    <div className={classes.room}>
      <RoomHead name="Plan" at="/plan" parts={parts} shown={shown} />
      {sheets[shown]}
    </div>
  );
}
