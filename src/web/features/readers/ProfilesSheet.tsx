import { NewNamed } from "./NewNamed";
import { PlanSheet } from "./PlanSheet";
import { ProfileForm } from "./ProfileForm";

/** How the platforms that send the emails write fields and conditions. */
export function ProfilesSheet() {
  return (
    <PlanSheet
      what="Export profiles"
      about="How the platform that sends your emails writes a field and what depends on one. Mustache (its published specification) is always there; add a profile for a platform that writes them otherwise."
      none="Emails are exported as Mustache. Add a profile for a platform that writes fields otherwise."
      entriesOf={(data) =>
        data.profiles.map((profile) => ({
          key: profile.key,
          name: profile.name,
          note: profile.open ? profile.field : `${profile.field}, no conditions`,
        }))
      }
      form={(key, data, edit) => {
        const profile = data.profiles.find((p) => p.key === key);
        return profile && <ProfileForm key={key} profile={profile} mayChange={data.change.allowed} edit={edit} />;
      }}
      add={(taken, edit, choose) => (
        <NewNamed
          label="New profile"
          placeholder="What your platform is called"
          taken={(key) => key === "mustache" || taken(key)}
          onMake={(key, name) => {
            edit({ kind: "set-export-profile", profile: { key, name, field: "[NAME]" }, at: null }, `profiles/${key}`);
            choose(key);
          }}
        />
      )}
    />
  );
}
