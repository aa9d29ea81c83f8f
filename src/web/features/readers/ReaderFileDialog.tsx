import { Button, Modal, NativeSelect } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { MergeField } from "../../api/types";
import { FileDrop } from "../../shared/FileDrop";
import { countOf } from "../../shared/format";
import classes from "./ReadersRoom.module.css";

interface Props {
  fields: MergeField[];
  onClose: () => void;
}

/** Sample readers from a CSV file: which column is which field, what is wrong in it, and then all of them or none. */
export default function ReaderFileDialog({ fields, onClose }: Props) {
  const [file, setFile] = useState<{ name: string; csv: string }>();
  const read = useMutation({
    mutationFn: ({ csv, columns, store }: { csv: string; columns: Column[] | null; store: boolean }) =>
      ask(api.POST("/api/sample-readers/file", { body: { csv, columns, store } })),
    onSuccess: (answer, { store }) => {
      if (store && answer.bad.length === 0) {
        onClose();
      }
    },
  });
  const take = async ([chosen]: File[]) => {
    if (chosen) {
      // What is far too large for samples is not even read.
      const csv = await chosen.slice(0, most).text();
      setFile({ name: chosen.name, csv });
      read.mutate({ csv: chosen.size > most ? `${csv}\n` : csv, columns: null, store: false });
    }
  };
  const data = read.data;
  const map = (column: string, field: string) => {
    if (file && data) {
      read.mutate({
        csv: file.csv,
        columns: data.columns.map((c) => (c.column === column ? { ...c, field: field || null } : c)),
        store: false,
      });
    }
  };
  return (
    <Modal opened onClose={onClose} title="Sample readers from a file" size="lg" closeButtonProps={{ "aria-label": "Close" }}>
      <div className={classes.form}>
        <FileDrop label="A CSV file of sample readers" accept={["text/csv", ".csv"]} onFiles={take}>
          {(choose) => (
            <p>
              <Button variant="default" onClick={choose}>
                {file ? "Choose another file" : "Choose a CSV file"}
              </Button>{" "}
              <span className="soft">{file?.name ?? "or drop it here. The first line names the columns."}</span>
            </p>
          )}
        </FileDrop>
        {read.error && <p role="alert">■ {read.error.message}</p>}
        {data && (
          <>
            <h3>Which column is which field</h3>
            {data.columns.map(({ column, field }) => (
              <NativeSelect
                key={column}
                label={column}
                value={field ?? ""}
                onChange={(e) => map(column, e.currentTarget.value)}
                data={[
                  { value: "", label: "Leave it out" },
                  { value: "name", label: "Name of the sample" },
                  ...fields.map((f) => ({ value: f.key, label: f.label })),
                ]}
              />
            ))}
            {data.bad.length > 0 ? (
              <div role="alert">
                <p>
                  ■ {countOf(data.bad.length, "value does", "values do")} not fit, so nothing comes in. Mend the file, or leave the column
                  out.
                </p>
                <ul className={classes.bad}>
                  {data.bad.map((bad) => (
                    <li key={`${bad.line} ${bad.column}`}>
                      Line {bad.line}
                      {bad.column && `, ${bad.column}`}: {bad.message}
                    </li>
                  ))}
                </ul>
              </div>
            ) : (
              <Button loading={read.isPending} onClick={() => file && read.mutate({ csv: file.csv, columns: data.columns, store: true })}>
                Import {countOf(data.readers.length, "sample reader")}
              </Button>
            )}
          </>
        )}
      </div>
    </Modal>
  );
}

type Column = { column: string; field: string | null };

/** Characters that the server takes. */
const most = 2_000_000;
