import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { DeskAbout, RowKind } from "../../api/types";
import { kindLabel, rowKinds } from "../rows/rowKinds";
import type { Desk } from "./DeskStore";
import { LineInput } from "./fields/LineInput";
import { useKeptValue } from "./fields/useKeptValue";
import classes from "./RowSheet.module.css";
import { StandingPart } from "./StandingPart";
import { useDeskContext } from "./useDesk";

/** What a template or saved row is for, the rules of the whole of it in plain words, and how it stands in the library. */
export function AboutSheet({ desk, about }: { desk: Desk; about: DeskAbout }) {
  const { store, choice } = useDeskContext();
  const [name, setName] = useKeptValue(desk.name, "name", (next: string) => next.trim() && store.edit({ kind: "set-name", name: next }));
  const [description, setDescription] = useKeptValue(about.description, "about/description", (text: string) =>
    store.edit({ kind: "set-description", text }),
  );
  const [tags, setTags] = useKeptValue(about.tags.join(", "), "about/tags", (text: string) =>
    store.edit({
      kind: "set-tags",
      tags: text
        .split(",")
        .map((t) => t.trim())
        .filter(Boolean),
    }),
  );
  return (
    <section aria-label={desk.kind === "row" ? "About this row" : "About this template"}>
      <h2 className={classes.title}>{desk.kind === "row" ? "About this row" : "About this template"}</h2>
      {about.summary.length > 0 && (
        <ul className={classes.summary} aria-label="Its rules in plain words">
          {about.summary.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      <div className={classes.block}>
        <LineInput id="about-name" label="Name" value={name} asked={choice.field === "name" ? choice.asked : 0} onChange={setName} />
      </div>
      <div className={classes.block}>
        <LineInput id="about-description" label="What it is for" value={description} onChange={setDescription} />
      </div>
      {desk.kind === "row" && <RowParts about={about} />}
      <Serves desk={desk} about={about} />
      <div className={classes.block}>
        <LineInput id="about-tags" label="Tags, parted by commas" value={tags} onChange={setTags} />
      </div>
      {desk.kind === "template" && (
        <label className={classes.tick}>
          <input
            type="checkbox"
            checked={about.plainTextOpen}
            onChange={(e) => store.edit({ kind: "set-plain-text-open", open: e.currentTarget.checked })}
          />
          Authors may write the plain text by hand
        </label>
      )}
      <StandingPart desk={desk} about={about} />
    </section>
  );
}

function RowParts({ about }: { about: DeskAbout }) {
  const { store } = useDeskContext();
  const [instruction, setInstruction] = useKeptValue(about.instruction ?? "", "//instruction", (text: string) =>
    store.edit({ kind: "set-instruction", row: null, piece: null, text: text || null }),
  );
  const [varies, setVaries] = useKeptValue(about.varies ?? "", "about/varies", (text: string) => store.edit({ kind: "set-varies", text }));
  return (
    <>
      <div className={classes.block}>
        <LineInput id="about-instruction" label="Instruction to those who use it" value={instruction} onChange={setInstruction} />
      </div>
      {about.variantOf && (
        <div className={classes.block}>
          <LineInput id="about-varies" label="What this variant varies" value={varies} onChange={setVaries} />
        </div>
      )}
      <label className={classes.pick}>
        Row kind
        <select
          value={about.rowKind ?? "main"}
          onChange={(e) => store.edit({ kind: "set-row-kind", rowKind: e.currentTarget.value as RowKind, row: null })}
        >
          {rowKinds.map((k) => (
            <option key={k.value} value={k.value}>
              {kindLabel(k.value)}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}

/** The campaign types: for a row any number, for a template one; and for a template the house style. */
function Serves({ desk, about }: { desk: Desk; about: DeskAbout }) {
  const { store } = useDeskContext();
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  const styles = useQuery({
    queryKey: ["house-styles"],
    queryFn: () => ask(api.GET("/api/house-styles")),
    enabled: desk.kind === "template",
  });
  const set = (keys: string[]) => store.edit({ kind: "set-campaign-types", keys });
  if (desk.kind === "template") {
    return (
      <>
        <label className={classes.pick}>
          Campaign type
          <select value={about.campaignTypes[0]} onChange={(e) => set([e.currentTarget.value])}>
            {types.data?.map((t) => (
              <option key={t.key} value={t.key}>
                {t.name}
              </option>
            ))}
          </select>
        </label>
        <label className={classes.pick}>
          House style
          <select value={about.houseStyle} onChange={(e) => store.edit({ kind: "set-house-style", houseStyle: e.currentTarget.value })}>
            {styles.data
              ?.filter((s) => s.release > 0)
              .map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
          </select>
        </label>
      </>
    );
  }
  return (
    <fieldset className={classes.serves}>
      <legend>Serves</legend>
      <label>
        <input type="checkbox" checked={about.campaignTypes.length === 0} onChange={() => set([])} />
        All campaign types
      </label>
      {types.data?.map((t) => (
        <label key={t.key}>
          <input
            type="checkbox"
            checked={about.campaignTypes.includes(t.key)}
            onChange={() =>
              set(about.campaignTypes.includes(t.key) ? about.campaignTypes.filter((k) => k !== t.key) : [...about.campaignTypes, t.key])
            }
          />
          {t.name}
        </label>
      ))}
    </fieldset>
  );
}
