import { Button, NativeSelect, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { NarrowedEntry, VariableEntry } from "../../api/types";
import { newId } from "../../shared/ids";
import { useRoom } from "./RoomContext";
import classes from "./ValueList.module.css";

/** Templates and rows that say another value of a variable for themselves, without a house style of their own. */
export function VariableOverrides({ entry, narrowed }: { entry: VariableEntry; narrowed: NarrowedEntry[] }) {
  const { style } = useRoom();
  const key = entry.variable.key;
  const { set, release } = useVariableOverride(key);
  const [adding, setAdding] = useState(false);
  const [fault] = [set.error ?? release.error];
  return (
    <div className={classes.narrowing}>
      {narrowed.map((n) => (
        <p key={n.id}>
          <b>{n.name}</b>{" "}
          {n.value == null ? "follows the house style again" : `says ${n.value}${n.dark ? `, dark ${n.dark}` : ""} for itself`}
          {style.mayEdit && n.value != null && (
            <>
              {" "}
              <button type="button" className="plain underlined" onClick={() => set.mutate({ master: n, value: null })}>
                Use the inherited value
              </button>
            </>
          )}
          {style.mayEdit && !n.released && (
            <>
              {" "}
              <button type="button" className="plain underlined" onClick={() => release.mutate(n)}>
                Release {n.release + 1} of it
              </button>
            </>
          )}
        </p>
      ))}
      {fault && (
        <p role="alert" className={classes.fault}>
          ■ {fault.message}
        </p>
      )}
      {style.mayEdit &&
        (adding ? (
          <NarrowForm entry={entry} onDone={() => setAdding(false)} />
        ) : (
          <button type="button" className="plain underlined" onClick={() => setAdding(true)}>
            Override for a template or row
          </button>
        ))}
    </div>
  );
}

function NarrowForm({ entry, onDone }: { entry: VariableEntry; onDone: () => void }) {
  const masters = useQuery(queries.masters);
  const { set } = useVariableOverride(entry.variable.key);
  const [chosen, setChosen] = useState("");
  const [value, setValue] = useState(entry.resolved);
  const [dark, setDark] = useState("");
  const master = masters.data?.find((m) => m.id === chosen);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (master) {
      set.mutate({ master, value: { value: value.trim(), dark: dark.trim() || null } }, { onSuccess: onDone });
    }
  };
  return (
    <form onSubmit={submit} className={classes.narrowForm}>
      <NativeSelect
        label="Template or row"
        value={chosen}
        onChange={(e) => setChosen(e.currentTarget.value)}
        data={[
          { value: "", label: "which?" },
          ...(masters.data ?? []).map((m) => ({ value: m.id, label: `${m.name}, ${m.row ? "row" : "template"}` })),
        ]}
      />
      <TextInput label="Its value there" value={value} onChange={(e) => setValue(e.currentTarget.value)} error={set.error?.message} />
      {entry.variable.type === "colour" && (
        <TextInput label="In dark mode" placeholder="the same" value={dark} onChange={(e) => setDark(e.currentTarget.value)} />
      )}
      <Button type="submit" variant="default" disabled={!master} loading={set.isPending}>
        Override
      </Button>
    </form>
  );
}

interface Master {
  id: string;
  row: boolean;
  revision: number;
}

function useVariableOverride(key: string) {
  const cache = useQueryClient();
  const refresh = () =>
    Promise.all([["variable-uses"], ["masters"], ["templates"]].map((queryKey) => cache.invalidateQueries({ queryKey })));
  const set = useMutation({
    mutationFn: ({ master, value }: { master: Master; value: { value: string; dark: string | null } | null }) => {
      const params = { path: { id: master.id } };
      const body = {
        base: master.revision,
        edits: [{ id: newId(), step: newId(), edit: { kind: "narrow-variable" as const, key, value } }],
      };
      return ask(master.row ? api.POST("/api/rows/{id}/edits", { params, body }) : api.POST("/api/templates/{id}/edits", { params, body }));
    },
    onSuccess: refresh,
  });
  const release = useMutation({
    mutationFn: (master: NarrowedEntry) => {
      const params = { path: { id: master.id } };
      const body = {
        note: master.value == null ? `${key} follows the house style again` : `${key} is ${master.value} here`,
        required: false,
      };
      return ask(
        master.row ? api.POST("/api/rows/{id}/releases", { params, body }) : api.POST("/api/templates/{id}/releases", { params, body }),
      );
    },
    onSuccess: refresh,
  });
  return { set, release };
}
