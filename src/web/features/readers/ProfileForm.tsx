import { TextInput } from "@mantine/core";
import type { ExportProfile } from "../../api/types";
import type { SendEdit } from "../../shared/useEditedDocument";
import { useTypedField } from "../../shared/useLiveField";
import { Refused } from "./FormParts";
import classes from "./ReadersRoom.module.css";

interface Props {
  profile: ExportProfile;
  mayChange: boolean;
  edit: SendEdit;
}

type Pattern = "field" | "plain" | "date" | "open" | "else" | "close" | "marks" | "literal";

const patterns: { name: Pattern; label: string; about: string }[] = [
  { name: "field", label: "A field", about: "NAME stands where the field's name goes. The platform escapes its value for HTML." },
  { name: "plain", label: "A field in plain text", about: "In the plain text and the subject. Empty: as above." },
  {
    name: "date",
    label: "A date",
    about: "Where the platform words dates itself. Empty: dates are worded in the email's language beforehand.",
  },
  {
    name: "open",
    label: "Beginning of a condition",
    about: "Before what is only there where it holds, or where a field is known. Empty: the platform has no conditions.",
  },
  {
    name: "else",
    label: "Otherwise",
    about: "Before what is there where it does not hold, a fallback for example. Empty: the platform has none.",
  },
  { name: "close", label: "End of a condition", about: "After all of it." },
  { name: "marks", label: "Reserved characters", about: "What begins anything that the platform reads, parted by blanks: {{ for example." },
  {
    name: "literal",
    label: "Reserved characters in a text",
    about: "How they are written there; MARK stands for them. Empty: an email in which they stand is not exported.",
  },
];

/** How one sending platform writes fields and conditions. */
export function ProfileForm({ profile: served, mayChange, edit }: Props) {
  const target = `profiles/${served.key}`;
  const [profile, set, refused] = useTypedField<ExportProfile>(served, target, (next) => ({
    kind: "set-export-profile",
    profile: next,
    at: null,
  }));
  const change = (part: Partial<ExportProfile>) => set((now) => ({ ...now, ...part }));
  return (
    <div className={classes.form}>
      <h2>{profile.name}</h2>
      <Refused why={refused} />
      <TextInput
        label="Name"
        maxLength={120}
        value={profile.name}
        disabled={!mayChange}
        onChange={(e) => change({ name: e.currentTarget.value })}
      />
      {patterns.map(({ name, label, about }) => (
        <TextInput
          key={name}
          label={label}
          description={about}
          value={profile[name] ?? ""}
          disabled={!mayChange}
          classNames={{ input: classes.pattern ?? "" }}
          onChange={(e) => change({ [name]: e.currentTarget.value })}
        />
      ))}
      {mayChange && (
        <p>
          <button
            type="button"
            className="plain underlined"
            onClick={() => edit({ kind: "remove-export-profile", key: profile.key }, target)}
          >
            Remove
          </button>
        </p>
      )}
    </div>
  );
}
