import { Checkbox, NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import type { DeskAbout } from "../../api/types";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { toggled, trimmed, useLiveField, useTypedField } from "../../shared/useLiveField";
import { LineInput } from "../desk/copy/fields/LineInput";
import { NotStored } from "../desk/copy/fields/NotStored";
import classes from "../desk/copy/RowSheet.module.css";
import type { Desk } from "../desk/DeskStore";
import { useDeskContext } from "../desk/useDesk";
import { RowKindSelect } from "../rows/RowKindSelect";
import { LibraryStatus } from "./LibraryStatus";

/** What a template or saved row is for, the rules of the whole of it in plain words, and how it stands in the library. */
export function AboutSheet({ desk, about }: { desk: Desk; about: DeskAbout }) {
  const { choice } = useDeskContext();
  const [name, setName, nameRefused] = useTypedField(
    desk.name,
    "name",
    (next) => (next.trim() ? { kind: "set-name", name: next } : []),
    trimmed,
  );
  const [description, setDescription, descriptionRefused] = useTypedField(about.description, "about/description", (text) => ({
    kind: "set-description",
    text,
  }));
  const [tags, setTags, tagsRefused] = useTypedField(
    about.tags.join(", "),
    "about/tags",
    (text) => ({ kind: "set-tags", tags: tagsOf(text) }),
    (text) => tagsOf(text).join(", "),
  );
  const [open, setOpen] = useLiveField(about.plainTextOpen, "about/plain-text", (on) => ({ kind: "set-plain-text-open", open: on }));
  const [forOne, setForOne] = useLiveField(about.forOnePerson, "about/for-one-person", (on) => ({ kind: "set-for-one-person", on }));
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
        <NotStored reason={nameRefused} />
      </div>
      <div className={classes.block}>
        <LineInput id="about-description" label="What it is for" value={description} onChange={setDescription} />
        <NotStored reason={descriptionRefused} />
      </div>
      {desk.kind === "row" && <RowParts about={about} />}
      <Serves desk={desk} about={about} />
      <div className={classes.block}>
        <LineInput id="about-tags" label="Tags, separated by commas" value={tags} onChange={setTags} />
        <NotStored reason={tagsRefused} />
      </div>
      {desk.kind === "template" && (
        <>
          <Checkbox
            className={classes.tick}
            label="Authors may edit the plain text"
            checked={open}
            onChange={(e) => setOpen(e.currentTarget.checked)}
          />
          <Checkbox
            className={classes.tick}
            label="Its emails are each written to one person"
            checked={forOne}
            onChange={(e) => setForOne(e.currentTarget.checked)}
          />
        </>
      )}
      <LibraryStatus desk={desk} about={about} />
    </section>
  );
}

const tagsOf = (text: string) =>
  text
    .split(",")
    .map((t) => t.trim())
    .filter(Boolean);

function RowParts({ about }: { about: DeskAbout }) {
  const [instruction, setInstruction, instructionRefused] = useTypedField(about.instruction ?? "", "about/instruction", (text) => ({
    kind: "set-instruction",
    row: null,
    piece: null,
    text: text || null,
  }));
  const [varies, setVaries, variesRefused] = useTypedField(about.varies ?? "", "about/varies", (text) => ({ kind: "set-varies", text }));
  const [rowKind, setRowKind] = useLiveField(about.rowKind ?? "main", "about/row-kind", (kind) => ({
    kind: "set-row-kind",
    rowKind: kind,
    row: null,
  }));
  return (
    <>
      <div className={classes.block}>
        <LineInput id="about-instruction" label="Instruction to those who use it" value={instruction} onChange={setInstruction} />
        <NotStored reason={instructionRefused} />
      </div>
      {about.variantOf && (
        <div className={classes.block}>
          <LineInput id="about-varies" label="Variant of, and what differs" value={varies} onChange={setVaries} />
          <NotStored reason={variesRefused} />
        </div>
      )}
      <RowKindSelect className={classes.pick} value={rowKind} onChange={setRowKind} />
    </>
  );
}

/** The campaign types: for a row any number, for a template one; and for a template the house style. */
function Serves({ desk, about }: { desk: Desk; about: DeskAbout }) {
  const types = useCampaignTypes();
  const styles = useQuery({ ...queries.houseStyles, enabled: desk.kind === "template" });
  const [chosen, set] = useLiveField(about.campaignTypes, "about/campaign-types", (keys) => ({ kind: "set-campaign-types", keys }));
  const [houseStyle, setHouseStyle] = useLiveField(about.houseStyle, "about/house-style", (id) => ({
    kind: "set-house-style",
    houseStyle: id,
  }));
  if (desk.kind === "template") {
    return (
      <>
        <NativeSelect
          label="Campaign type"
          className={classes.pick}
          data={types.listed}
          value={types.current(chosen[0] ?? "")}
          onChange={(e) => set([e.currentTarget.value])}
        />
        <NativeSelect
          label="House style"
          className={classes.pick}
          data={styles.data?.filter((s) => s.release > 0).map((s) => ({ value: s.id, label: s.name })) ?? []}
          value={houseStyle}
          onChange={(e) => setHouseStyle(e.currentTarget.value)}
        />
      </>
    );
  }
  return (
    <fieldset className={classes.serves}>
      <legend>For campaign types</legend>
      <Checkbox label="All campaign types" checked={chosen.length === 0} onChange={() => set([])} />
      {types.listed.map((t) => (
        <Checkbox
          key={t.value}
          label={t.label}
          checked={chosen.map(types.current).includes(t.value)}
          onChange={() => set((keys) => toggled(keys.map(types.current), t.value))}
        />
      ))}
    </fieldset>
  );
}
