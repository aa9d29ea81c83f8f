import { TextInput } from "@mantine/core";
import type { Audience, Audiences } from "../../api/types";
import type { SendEdit } from "../../shared/useEditedDocument";
import { useTypedField } from "../../shared/useLiveField";
import ConditionEditor from "./ConditionEditor";
import { isComplete } from "./conditions";
import { Refused, Retiring } from "./FormParts";
import classes from "./ReadersRoom.module.css";

interface Props {
  entry: Audiences["audiences"][number];
  plan: Audiences;
  edit: SendEdit;
}

/** One audience: what it is called, and which readers are meant. */
export function AudienceForm({ entry: { audience: served, places }, plan, edit }: Props) {
  const target = `audiences/${served.key}`;
  const mayChange = plan.change.allowed;
  const [audience, set, refused] = useTypedField<Audience>(served, target, (next) =>
    isComplete(next.condition, plan.fields) ? { kind: "set-audience", audience: next, at: null } : undefined,
  );
  const change = (part: Partial<Audience>) => set((now) => ({ ...now, ...part }));
  return (
    <div className={classes.form}>
      <h2>{audience.name}</h2>
      <p className="soft">
        Technical name <code>{audience.key}</code>
      </p>
      <Refused why={refused} />
      <TextInput
        label="Name"
        maxLength={120}
        value={audience.name}
        disabled={!mayChange}
        onChange={(e) => change({ name: e.currentTarget.value })}
      />
      <TextInput
        label="Who they are"
        value={audience.description ?? ""}
        disabled={!mayChange}
        onChange={(e) => change({ description: e.currentTarget.value })}
      />
      <ConditionEditor
        label="Readers in it: those of whom"
        condition={audience.condition}
        plan={plan}
        disabled={!mayChange}
        onChange={(condition) => change({ condition })}
      />
      {mayChange && (
        <Retiring
          retired={audience.retired ?? false}
          places={places}
          onRetire={(retired) => change({ retired })}
          onRemove={() => edit({ kind: "remove-audience", key: audience.key }, target)}
        />
      )}
    </div>
  );
}
