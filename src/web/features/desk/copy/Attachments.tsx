import { FileButton, NativeSelect } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../../api/queries";
import type { Attachment } from "../../../api/types";
import { kilobytesOf } from "../../../shared/format";
import { upload } from "../../../shared/upload";
import { useLiveField } from "../../../shared/useLiveField";
import type { Desk } from "../DeskStore";
import classes from "./Attachments.module.css";
import { FindingLine } from "./fields/FindingLine";

/** The files that go out with the email: chosen from the library, or added to it. */
export function Attachments({ desk }: { desk: Desk }) {
  const cache = useQueryClient();
  const library = useQuery(queries.files);
  const [sent, setSent] = useState<number>();
  const [fault, setFault] = useState<string>();
  const [attached, set] = useLiveField<Attachment[]>(desk.head.attachments, "details/attachments", (files) => ({
    kind: "set-attachments",
    files,
  }));
  // Onto what is attached by then: two files may be on their way at once.
  const attach = ({ id, name, mediaType, bytes }: { id: string; name: string; mediaType: string; bytes: number }) =>
    attached.some((a) => a.file === id)
      ? setFault(`"${name}" is attached already.`)
      : set((files) => [...files.filter((f) => f.file !== id), { file: id, name, mediaType, bytes }]);

  const add = async (file: File) => {
    setFault(undefined);
    setSent(0);
    try {
      attach(
        await upload<{ id: string; name: string; mediaType: string; bytes: number }>(
          "/api/files",
          file,
          file.name,
          `"${file.name}" is too large; a file has at most ${kilobytesOf(library.data?.mostEach ?? 0)}.`,
          setSent,
        ),
      );
      void cache.invalidateQueries({ queryKey: ["files"] });
    } catch (problem) {
      setFault((problem as Error).message);
    }
    setSent(undefined);
  };

  const others = library.data?.files.filter((f) => !attached.some((a) => a.file === f.id)) ?? [];
  const findings = desk.findings.filter((f) => f.place.row === "details" && f.place.field === "attachments");
  return (
    <fieldset className={classes.files}>
      <legend>Attachments</legend>
      {attached.length > 0 && (
        <ul>
          {attached.map((file) => (
            <li key={file.file}>
              <a href={`/api/files/${file.file}`}>{file.name}</a> <span className="soft">{kilobytesOf(file.bytes)}</span>
              <button
                type="button"
                className="plain underlined"
                disabled={!desk.head.allowance.allowed}
                onClick={() => set((files) => files.filter((a) => a.file !== file.file))}
              >
                Remove<span className="only-heard"> {file.name}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {desk.head.allowance.allowed && (
        <div className={classes.acts}>
          <FileButton
            accept={library.data?.extensions.join(",")}
            disabled={sent !== undefined}
            inputProps={{ "aria-label": "File to attach" }}
            onChange={(file) => file && void add(file)}
          >
            {(props) => (
              <button type="button" className="plain underlined" disabled={sent !== undefined} {...props}>
                Attach a file
              </button>
            )}
          </FileButton>
          {others.length > 0 && (
            <NativeSelect
              aria-label="Attach a file of the library"
              value=""
              data={[
                { value: "", label: "From the library…" },
                ...others.map((file) => ({ value: file.id, label: `${file.name}, ${kilobytesOf(file.bytes)}` })),
              ]}
              onChange={(e) => {
                const file = others.find((f) => f.id === e.currentTarget.value);
                setFault(undefined);
                if (file) {
                  attach(file);
                }
              }}
            />
          )}
        </div>
      )}
      {sent !== undefined && <progress aria-label="Adding the file" value={sent} max={1} />}
      {fault && (
        <p role="alert" className={classes.fault}>
          {fault}
        </p>
      )}
      {findings.map((f) => (
        <FindingLine key={f.check} finding={f} />
      ))}
      {attached.length === 0 && library.data && (
        <p className="soft">
          {library.data.extensions.join(", ")}; up to {kilobytesOf(library.data.mostEach)} each, {kilobytesOf(library.data.mostTogether)}{" "}
          together.
        </p>
      )}
    </fieldset>
  );
}
