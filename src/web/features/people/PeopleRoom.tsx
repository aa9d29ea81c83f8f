import { useParams } from "react-router";
import { RoomHead } from "../../shared/RoomHead";
import { TestersSheet } from "../test-sends/TestersSheet";
import { LogSheet } from "./LogSheet";
import classes from "./PeopleRoom.module.css";
import { PeopleSheet } from "./PeopleSheet";

const parts = [
  { to: "list", name: "People" },
  { to: "testers", name: "Testers" },
  { to: "log", name: "Log" },
] as const;

/** Who is here and as what, and what was done. */
export default function PeopleRoom() {
  const { part } = useParams();
  const shown = parts.find((p) => p.to === part)?.to ?? "list";
  return (
    <div className={classes.room}>
      <RoomHead name="People" at="/people" parts={parts} shown={shown} />
      {shown === "list" && <PeopleSheet />}
      {shown === "testers" && <TestersSheet />}
      {shown === "log" && <LogSheet />}
    </div>
  );
}
