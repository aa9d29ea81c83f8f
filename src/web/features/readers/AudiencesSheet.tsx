import { AudienceForm } from "./AudienceForm";
import { newTest } from "./conditions";
import { NewNamed } from "./NewNamed";
import { PlanSheet } from "./PlanSheet";

/** Readers that have a name, for authors to choose from. */
export function AudiencesSheet() {
  return (
    <PlanSheet
      what="Audiences"
      about="Readers you give a name. Authors choose among them who sees a row or a block; what you change here changes wherever it stands."
      none="Name the first one: members, for example. It takes a field to tell them by."
      entriesOf={(data) =>
        data.audiences.map(({ audience, readers }) => ({
          key: audience.key,
          name: audience.name,
          note: readers,
          retired: audience.retired,
        }))
      }
      form={(key, data, edit) => {
        const entry = data.audiences.find((a) => a.audience.key === key);
        return entry && <AudienceForm key={key} entry={entry} plan={data} edit={edit} />;
      }}
      add={(taken, edit, choose, data) => (
        <NewNamed
          label="New audience"
          placeholder="Members"
          taken={taken}
          onMake={(key, name) => {
            const first = data.fields.find((f) => !f.field.retired && f.field.type !== "text") ?? data.fields[0];
            const condition = first
              ? {
                  ...newTest(first),
                  ...(first.field.type === "number" || first.field.type === "date" ? { is: "not-empty" as const, values: [] } : {}),
                }
              : { kind: "group" as const, match: "all" as const, parts: [] };
            edit(
              { kind: "set-audience", audience: { key, name, condition, description: "", retired: false }, at: null },
              `audiences/${key}`,
            );
            choose(key);
          }}
        />
      )}
    />
  );
}
