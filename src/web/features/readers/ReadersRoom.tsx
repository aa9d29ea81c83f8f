import { useParams } from "react-router";
import { RoomHead } from "../../shared/RoomHead";
import { FieldsSheet } from "./FieldsSheet";
import classes from "./ReadersRoom.module.css";
import { SamplesSheet } from "./SamplesSheet";

const parts = [
  { to: "fields", name: "Fields" },
  { to: "samples", name: "Sample readers" },
] as const;

/** What is known of readers, and made-up ones to look at proofs by. */
export default function ReadersRoom() {
  const { part } = useParams();
  const shown = parts.find((p) => p.to === part)?.to ?? "fields";
  return (
    <div className={classes.room}>
      <RoomHead name="Readers" at="/readers" parts={parts} shown={shown} />
      {shown === "fields" ? <FieldsSheet /> : <SamplesSheet />}
    </div>
  );
}
