import { Button } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { SampleReader } from "../../api/types";
import { newId } from "../../shared/ids";
import { lazily } from "../../shared/lazily";
import { Pending } from "../../shared/Pending";
import { WideTable } from "../../shared/WideTable";
import { useIsEverywhere } from "../session/useSession";
import classes from "./ReadersRoom.module.css";

const ReaderFileDialog = lazily(() => import("./ReaderFileDialog"));
const ReaderDialog = lazily(() => import("./ReaderDialog"));

/** Made-up readers, by whom proofs are looked at: from a file or by hand, and gone in one act. */
export function SamplesSheet() {
  const cache = useQueryClient();
  const keeps = useIsEverywhere("lead", "designer");
  const readers = useQuery(queries.sampleReaders);
  const audiences = useQuery(queries.audiences);
  const [opened, open] = useState<"file" | SampleReader>();
  /** What was deleted last, to bring back. */
  const [gone, setGone] = useState<SampleReader[]>([]);
  const again = () => cache.invalidateQueries({ queryKey: queries.sampleReaders.queryKey });
  const remove = useMutation({
    mutationFn: async (which: SampleReader[] | "all") => {
      setGone(which === "all" ? (readers.data ?? []) : which);
      if (which === "all") {
        await ask(api.DELETE("/api/sample-readers"));
      } else {
        await Promise.all(which.map(({ id }) => ask(api.DELETE("/api/sample-readers/{id}", { params: { path: { id } } }))));
      }
    },
    onSettled: again,
  });
  const restore = useMutation({
    mutationFn: async () => {
      for (const { id, name, values } of gone) {
        await ask(api.PUT("/api/sample-readers/{id}", { params: { path: { id } }, body: { name, values } }));
      }
      setGone([]);
    },
    onSettled: again,
  });
  const fields = audiences.data?.fields.map((f) => f.field).filter((f) => !f.retired) ?? [];
  const fault = remove.error ?? restore.error;
  return (
    <div className={classes.samples}>
      <p className={classes.about}>
        Sample readers are made up: whoever makes an email looks at it as each of them. They are no list of recipients, and at most 500.
      </p>
      {keeps && (
        <p className={classes.acts}>
          <Button variant="default" onClick={() => open("file")}>
            Import from CSV
          </Button>
          <Button variant="default" onClick={() => open({ id: newId(), name: "", values: {} })}>
            Add one by hand
          </Button>
          {readers.data && readers.data.length > 0 && (
            <button type="button" className="plain underlined" disabled={remove.isPending} onClick={() => remove.mutate("all")}>
              Delete all
            </button>
          )}
          <span role="status">
            {gone.length > 0 && !remove.isPending && (
              <>
                Deleted {gone.length === 1 ? gone[0]?.name : `${gone.length} sample readers`}.{" "}
                <button type="button" className="plain underlined" disabled={restore.isPending} onClick={() => restore.mutate()}>
                  Undo
                </button>
              </>
            )}
          </span>
        </p>
      )}
      {fault && <p role="alert">■ {fault.message}</p>}
      <Pending query={readers} what="The sample readers" />
      {readers.data?.length === 0 && (
        <p className={classes.about}>There are none yet. Import a CSV file with made-up readers, or add one by hand.</p>
      )}
      {readers.data && readers.data.length > 0 && (
        <div className={classes.scroll}>
          <WideTable label="Sample readers" className={classes.table}>
            <thead>
              <tr>
                <th scope="col">Sample</th>
                {fields.map((field) => (
                  <th scope="col" key={field.key}>
                    {field.label}
                  </th>
                ))}
                {keeps && <td />}
              </tr>
            </thead>
            <tbody>
              {readers.data.map((reader) => (
                <tr key={reader.id}>
                  <th scope="row">
                    {keeps ? (
                      <button type="button" className="plain underlined" onClick={() => open(reader)}>
                        {reader.name}
                      </button>
                    ) : (
                      reader.name
                    )}
                  </th>
                  {fields.map((field) => (
                    <td key={field.key}>{reader.values[field.key]?.replaceAll(";", ", ") ?? <span className="soft">not known</span>}</td>
                  ))}
                  {keeps && (
                    <td>
                      <button
                        type="button"
                        className="plain underlined"
                        aria-label={`Delete ${reader.name}`}
                        onClick={() => remove.mutate([reader])}
                      >
                        Delete
                      </button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </WideTable>
        </div>
      )}
      {opened === "file" && (
        <ReaderFileDialog
          fields={fields}
          onClose={() => {
            open(undefined);
            void again();
          }}
        />
      )}
      {opened && opened !== "file" && (
        <ReaderDialog
          reader={opened}
          fields={fields}
          onClose={() => {
            open(undefined);
            void again();
          }}
        />
      )}
    </div>
  );
}
