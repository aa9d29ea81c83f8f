import type { HandOff } from "../../api/types";
import { countOf, dateAndTimeOf, dayOf, sizeOf } from "../../shared/format";
import { severities } from "../../shared/SeverityMark";
import classes from "./HandOffRoom.module.css";

type Record = HandOff["record"];
type Source = Record["versions"][number]["source"];

const sources: { source: Source; name: string }[] = [
  { source: "house-style", name: "House style" },
  { source: "template", name: "Template" },
  { source: "row", name: "Rows" },
  { source: "snippet", name: "Snippets" },
];

/** The record in words: each file with its hash, and everything it was made from. */
export function Frozen({ record }: { record: Record }) {
  const own = record.files.filter((f) => f.profile === record.profile && ["html", "text", "message"].includes(f.kind));
  const pictures = record.files.filter((f) => f.kind === "picture");
  const attached = record.files.filter((f) => f.kind === "attachment");
  return (
    <>
      <h2>What was handed off</h2>
      <dl className={classes.facts}>
        {record.to && (
          <Fact name="To">
            {record.to.name} <span className="soft">{record.to.address}</span>
          </Fact>
        )}
        <Fact name="Subject">{record.details.subject}</Fact>
        <Fact name="From">
          {record.details.senderName} <span className="soft">{record.details.senderAddress}</span>
        </Fact>
        {record.details.sendDay && <Fact name="Goes out">{dayOf(record.details.sendDay)}</Fact>}
        {own.map((file) => (
          <Fact key={file.name} name={{ html: "HTML", text: "Text", message: "Message" }[file.kind as "html" | "text" | "message"]}>
            {sizeOf(file.bytes)} <Hash sha256={file.sha256} />
          </Fact>
        ))}
        {pictures.length > 0 && (
          <Fact name="Pictures">
            {pictures.length}, {sizeOf(pictures.reduce((sum, f) => sum + f.bytes, 0))} <span className="soft">kept</span>
          </Fact>
        )}
        {attached.length > 0 && <Fact name="Attached">{attached.map((f) => f.name.split("/").at(-1)).join(", ")}</Fact>}
        {sources.map(({ source, name }) => {
          const all = record.versions.filter((v) => v.source === source);
          return all.length === 0 ? null : (
            <Fact key={source} name={name}>
              {source === "snippet" ? (
                <ul>
                  {all.map((v) => (
                    <li key={v.key}>
                      {v.name} <q>{v.words}</q>
                    </li>
                  ))}
                </ul>
              ) : (
                [...new Set(all.map((v) => `${v.name} ${v.release || ""}`.trim()))].join(", ")
              )}
            </Fact>
          );
        })}
        {record.fields.length > 0 && (
          <Fact name="Fields">
            <ul>
              {record.fields.map((f) => (
                <li key={f.key}>
                  {f.label}
                  {f.fallback && (
                    <>
                      , fallback <q>{f.fallback}</q>
                    </>
                  )}
                </li>
              ))}
            </ul>
          </Fact>
        )}
        <Fact name="Written for">{record.profiles.find((p) => p.key === record.profile)?.name ?? record.profile}</Fact>
        <Fact name="Approved">
          {record.approvals.length === 0 ? (
            "by whoever asked: nobody has to"
          ) : (
            <ul>
              {record.approvals.map((a) => (
                <li key={a.approval}>
                  {a.name}, <span className="soft">{dateAndTimeOf(a.at)}</span>
                </li>
              ))}
            </ul>
          )}
        </Fact>
        <Fact name="Findings">
          {record.findings.length === 0 ? (
            "none"
          ) : (
            <ul>
              {record.findings.map((f) => (
                <li key={`${f.message}/${f.where}`}>
                  <span aria-hidden>{severities[f.severity].mark}</span> {f.message} {f.answer && <q>{f.answer}</q>}
                </li>
              ))}
            </ul>
          )}
        </Fact>
        {record.note && <Fact name="Note">{record.note}</Fact>}
        <Fact name="Handed off by">{record.byName}</Fact>
      </dl>
      <details className={classes.values}>
        <summary>Brand variables, {record.variables.length}</summary>
        <dl className={classes.facts}>
          {record.variables.map((v) => (
            <Fact key={v.key} name={v.name}>
              {v.value}
            </Fact>
          ))}
        </dl>
      </details>
      <details className={classes.values}>
        <summary>{countOf(record.files.length, "file")}</summary>
        <ul className={classes.files}>
          {record.files.map((f) => (
            <li key={f.name}>
              {f.name} <span className="soft">{sizeOf(f.bytes)}</span> <Hash sha256={f.sha256} />
            </li>
          ))}
        </ul>
      </details>
    </>
  );
}

const Fact = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <div>
    <dt>{name}</dt>
    <dd>{children}</dd>
  </div>
);

const Hash = ({ sha256 }: { sha256: string }) => (
  <code title={`SHA-256 ${sha256}`}>
    sha256 {sha256.slice(0, 4)}…{sha256.slice(-4)}
  </code>
);
