import { useParams } from "react-router";
import { RoomHead } from "../../shared/RoomHead";
import { AudiencesSheet } from "./AudiencesSheet";
import { FieldsSheet } from "./FieldsSheet";
import { ProfilesSheet } from "./ProfilesSheet";
import classes from "./ReadersRoom.module.css";
import { SamplesSheet } from "./SamplesSheet";

const parts = [
  { to: "fields", name: "Fields" },
  { to: "audiences", name: "Audiences" },
  { to: "samples", name: "Sample readers" },
  { to: "profiles", name: "Export profiles" },
] as const;

const sheets = {
  fields: <FieldsSheet />,
  audiences: <AudiencesSheet />,
  samples: <SamplesSheet />,
  profiles: <ProfilesSheet />,
};

/** What is known of readers, and made-up ones to look at proofs by. */
export default function ReadersRoom() {
  const { part } = useParams();
  const shown = parts.find((p) => p.to === part)?.to ?? "fields";
  return (
    <div className={classes.room}>
      <RoomHead name="Readers" at="/readers" parts={parts} shown={shown} />
      {sheets[shown]}
    </div>
  );
}
