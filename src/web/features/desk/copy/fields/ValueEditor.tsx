import { Checkbox } from "@mantine/core";
import type { FieldValue, Measurement, PictureEntry, RichText } from "../../../../api/types";
import { lazily } from "../../../../shared/lazily";
import { CellsField } from "./CellsField";
import { CodeField } from "./CodeField";
import classes from "./fields.module.css";
import { LineInput } from "./LineInput";
import { LinksField } from "./LinksField";
import { MomentField } from "./MomentField";
import { PictureField } from "./PictureField";

const ProseField = lazily(() => import("./ProseField"), <div className={classes.waiting} />);

interface Props {
  id: string;
  label: string;
  value: FieldValue;
  /** What it comes to with brand variables filled in; undefined: the same. */
  resolved?: FieldValue;
  onChange: (value: FieldValue) => void;
  onPicture: (picture: PictureEntry) => void;
  asked?: number;
  caret?: number;
  note?: string;
  broken?: boolean;
  placeholder?: string;
  measured?: Measurement[];
  /** BCP 47 tag that the spelling goes by. */
  lang?: string;
  onSplit?: (first: RichText, rest: RichText) => void;
}

/** Writes a value of any type but a list of entries, which is made of several. */
export function ValueEditor({ value, resolved, onChange, onPicture, measured: _, onSplit, ...rest }: Props) {
  const common = { ...rest, asked: rest.asked ?? 0, note: rest.note ?? "" };
  switch (value.kind) {
    case "words":
      return <LineInput {...common} nodes value={value.text} onChange={(text) => onChange({ kind: "words", text })} />;
    case "link":
      return (
        <LineInput
          {...common}
          type="url"
          nodes
          placeholder="https://"
          comesTo={resolved?.kind === "link" ? resolved.href : undefined}
          value={value.href}
          onChange={(href) => onChange({ kind: "link", href: href.trim() })}
        />
      );
    case "prose":
      return (
        <ProseField
          {...common}
          value={value.text}
          resolved={resolved?.kind === "prose" ? resolved.text : undefined}
          onChange={(text) => onChange({ kind: "prose", text })}
          onSplit={onSplit}
        />
      );
    case "picture":
      return (
        <PictureField
          {...common}
          picture={value.picture}
          comesTo={resolved?.kind === "picture" ? resolved.picture : undefined}
          onChoose={onPicture}
          onTakeOut={() => onChange({ kind: "picture", picture: "" })}
          onNode={(picture) => onChange({ kind: "picture", picture })}
        />
      );
    case "flag":
      return (
        <Checkbox
          className={classes.flag}
          label={rest.label}
          checked={value.on}
          onChange={(e) => onChange({ kind: "flag", on: e.currentTarget.checked })}
        />
      );
    case "cells":
      return <CellsField {...common} rows={value.rows} onChange={(rows) => onChange({ kind: "cells", rows })} />;
    case "links":
      return (
        <LinksField
          {...common}
          links={value.links}
          resolved={resolved?.kind === "links" ? resolved.links : undefined}
          onChange={(links) => onChange({ kind: "links", links })}
        />
      );
    case "moment":
      return <MomentField {...common} moment={value} onChange={onChange} />;
    case "code":
      return <CodeField {...common} html={value.html} onChange={(html) => onChange({ kind: "code", html })} />;
    case "entries":
      return null;
  }
}
