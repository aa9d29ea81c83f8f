import { Button, Menu, NativeSelect, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { RowKind, RowPurpose } from "../../api/types";
import { ChangeLine } from "../../shared/ChangeLine";
import { Pending } from "../../shared/Pending";
import { freeKeyOf } from "../../shared/technicalName";
import { WideTable } from "../../shared/WideTable";
import { useIsEverywhere } from "../session/useSession";
import { MoreMenu } from "./MoreMenu";
import { NameField } from "./NameField";
import { OrderButtons } from "./OrderButtons";
import classes from "./PlanRoom.module.css";
import { usePlanChange } from "./usePlanChange";

type Change = { name?: string; purpose?: RowPurpose; retired?: boolean };

const put = (key: string, body: Change) =>
  ask(api.PUT("/api/row-kinds/{key}", { params: { path: { key } }, body: { name: null, purpose: null, retired: null, ...body } }));

const purposes: { value: RowPurpose; label: string }[] = [
  { value: "message", label: "Written anew in each email" },
  { value: "ready", label: "Comes ready, like an advert" },
  { value: "frame", label: "Stands around every email" },
];

const purposeLabel = (purpose: RowPurpose) => purposes.find((p) => p.value === purpose)?.label.toLowerCase();

/** The row kinds: what rows are for in an email, in the order an email has them. */
export function KindsSheet() {
  const leads = useIsEverywhere("lead");
  const kinds = useQuery(queries.rowKinds);
  const plan = usePlanChange();
  if (!kinds.data) {
    return <Pending query={kinds} what="The row kinds" />;
  }
  const all = kinds.data.filter((k) => !k.mergedInto);
  const set = (kind: RowKind, said: string, next: Change, before: Change) =>
    plan.change({ said, make: () => put(kind.key, next), undo: () => put(kind.key, before) });
  return (
    <div className={classes.sheet}>
      <p className={classes.about}>
        A row kind says what a row is for. Zones accept rows by their kind, the coverage shows which campaign types have them, and an email
        that lacks one it needs is told so.
      </p>
      <WideTable label="Row kinds" className={classes.table}>
        <thead>
          <tr>
            <th scope="col" className={classes.name}>
              Row kind
            </th>
            <th scope="col">What it is for</th>
            <th scope="col">
              <span className="only-heard">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {all.map((kind, at) => (
            <tr key={kind.key} data-retired={kind.retired}>
              <th scope="row">
                {leads ? (
                  <NameField
                    label={`Name of ${kind.name}`}
                    name={kind.name}
                    onRename={(name) => set(kind, `${kind.name} is called ${name} now.`, { name }, { name: kind.name })}
                  />
                ) : (
                  kind.name
                )}
                <span className="soft">
                  {kind.key}
                  {kind.retired && ", retired"}
                </span>
              </th>
              <td>
                {leads ? (
                  <NativeSelect
                    size="xs"
                    aria-label={`Words of ${kind.name}`}
                    data={purposes}
                    value={kind.purpose}
                    onChange={(e) => {
                      const purpose = e.currentTarget.value as RowPurpose;
                      set(kind, `${kind.name}: ${purposeLabel(purpose)}.`, { purpose }, { purpose: kind.purpose });
                    }}
                  />
                ) : (
                  purposeLabel(kind.purpose)
                )}
              </td>
              <td className={classes.acts}>
                {leads && (
                  <>
                    <OrderButtons
                      name={kind.name}
                      keys={all.map((k) => k.key)}
                      at={at}
                      onOrder={(keys, before) =>
                        plan.change({
                          said: `${kind.name} was moved.`,
                          make: () => ask(api.PUT("/api/row-kinds/order", { body: { keys } })),
                          undo: () => ask(api.PUT("/api/row-kinds/order", { body: { keys: before } })),
                        })
                      }
                    />
                    <MoreMenu
                      name={kind.name}
                      others={all.filter((other) => other.key !== kind.key && !other.retired)}
                      onMerge={(other) =>
                        plan.change({
                          said: `${kind.name} is part of ${other.name} now: its rows are ${other.name} rows, and zones accept them as such.`,
                          make: () =>
                            ask(api.POST("/api/row-kinds/{key}/merge", { params: { path: { key: kind.key } }, body: { into: other.key } })),
                        })
                      }
                    >
                      <Menu.Item
                        onClick={() =>
                          set(
                            kind,
                            `${kind.name} is ${kind.retired ? "offered again" : "retired: no new rows are made of it"}.`,
                            { retired: !kind.retired },
                            { retired: kind.retired },
                          )
                        }
                      >
                        {kind.retired ? "Restore" : "Retire"}
                      </Menu.Item>
                    </MoreMenu>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </WideTable>
      <p className="soft">
        What is written anew counts in the checks for default wording and length, and is filled when a document is pasted; what stands
        around every email does not count as its own links.
      </p>
      <ChangeLine {...plan} className={classes.said} />
      {leads && <NewKind plan={plan} taken={kinds.data.map((k) => k.key)} />}
    </div>
  );
}

function NewKind({ plan, taken }: { plan: ReturnType<typeof usePlanChange>; taken: string[] }) {
  const [name, setName] = useState("");
  const [purpose, setPurpose] = useState<RowPurpose>("message");
  const add = (event: FormEvent) => {
    event.preventDefault();
    plan.change({
      said: `${name.trim()} is a row kind now.`,
      make: async () => {
        await ask(api.POST("/api/row-kinds", { body: { key: freeKeyOf(name, "kind", taken), name, purpose } }));
        setName("");
      },
    });
  };
  return (
    <form className={classes.adding} onSubmit={add}>
      <TextInput label="New row kind" required maxLength={60} value={name} onChange={(e) => setName(e.currentTarget.value)} />
      <NativeSelect
        label="What it is for"
        data={purposes}
        value={purpose}
        onChange={(e) => setPurpose(e.currentTarget.value as RowPurpose)}
      />
      <Button type="submit" variant="default" disabled={!name.trim() || plan.busy}>
        Add
      </Button>
    </form>
  );
}
