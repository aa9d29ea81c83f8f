import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ask } from "../../../api/client";
import type { Attachment } from "../../../api/types";
import { kilobytesOf } from "../../../shared/format";
import { upload } from "../../../shared/upload";
import { useLiveField } from "../../../shared/useLiveField";
import type { Desk } from "../DeskStore";
import classes from "./Attachments.module.css";
import { FindingLine } from "./fields/FindingLine";

/** The files that go out with the email: chosen from the library, or added to it. */
export function Attachments({ desk }: { desk: Desk }) {
  const queries = useQueryClient();
  const library = useQuery({ queryKey: ["files"], queryFn: () => ask(api.GET("/api/files")) });
  const input = useRef<HTMLInputElement>(null);
  const [sent, setSent] = useState<number>();
  const [fault, setFault] = useState<string>();
  const [attached, set] = useLiveField<Attachment[]>(desk.attachments, "details/attachments", (files) => ({
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
      void queries.invalidateQueries({ queryKey: ["files"] });
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
                disabled={!desk.detailsAllowance.allowed}
                onClick={() => set((files) => files.filter((a) => a.file !== file.file))}
              >
                Remove<span className="only-heard"> {file.name}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {desk.detailsAllowance.allowed && (
        <div className={classes.acts}>
          <input
            ref={input}
            type="file"
            hidden
            accept={library.data?.extensions.join(",")}
            onChange={(e) => {
              const file = e.currentTarget.files?.[0];
              e.currentTarget.value = "";
              if (file) {
                void add(file);
              }
            }}
          />
          <button type="button" className="plain underlined" disabled={sent !== undefined} onClick={() => input.current?.click()}>
            Attach a file
          </button>
          {others.length > 0 && (
            <select
              aria-label="Attach a file of the library"
              value=""
              onChange={(e) => {
                const file = others.find((f) => f.id === e.currentTarget.value);
                setFault(undefined);
                if (file) {
                  attach(file);
                }
              }}
            >
              <option value="">From the library…</option>
              {others.map((file) => (
                <option key={file.id} value={file.id}>
                  {file.name}, {kilobytesOf(file.bytes)}
                </option>
              ))}
            </select>
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
