import { Button, Modal, TextInput } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { PaletteEntry } from "../../api/types";
import { FileDrop } from "../../shared/FileDrop";
import { fileBody } from "../../shared/fileBody";
import { countOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import { keyOf } from "../../shared/technicalName";
import { pictureTypes } from "../pictures/pictureTypes";
import classes from "./dialogs.module.css";
import { useRoom } from "./RoomContext";

const PictureDialog = lazily(() => import("../pictures/PictureDialog"));

/** Reads the colours off a logo and takes the ones that are named over as brand variables. */
export default function PaletteDialog({ onClose }: { onClose: () => void }) {
  const { style } = useRoom();
  const [choosing, setChoosing] = useState(false);
  const params = { path: { id: style.id } };
  const read = useMutation({
    mutationFn: (source: File | string) =>
      ask(
        typeof source === "string"
          ? api.GET("/api/house-styles/{id}/palette/{picture}", { params: { path: { id: style.id, picture: source } } })
          : api.POST("/api/house-styles/{id}/palette", { params, ...fileBody(source) }),
      ),
  });
  return (
    <Modal opened onClose={onClose} title="Colours from a picture" size={560} closeButtonProps={{ "aria-label": "Close" }}>
      <FileDrop label="Logo file" accept={pictureTypes} className={classes.drop} onFiles={([chosen]) => chosen && read.mutate(chosen)}>
        {(choose) => (
          <>
            <Button variant="default" loading={read.isPending} onClick={choose}>
              Choose a logo file
            </Button>
            <button type="button" className="plain underlined" onClick={() => setChoosing(true)}>
              or one from the library
            </button>
            <p className="soft">PNG, JPEG, GIF or SVG; drop it here too. The file is read, not stored.</p>
          </>
        )}
      </FileDrop>
      {read.error && (
        <p role="alert" className={classes.fault}>
          ■ {read.error.message}
        </p>
      )}
      {read.data && <Colours key={read.submittedAt} colours={read.data} onDone={onClose} />}
      {choosing && (
        <PictureDialog
          onClose={() => setChoosing(false)}
          onChoose={(picture) => {
            setChoosing(false);
            read.mutate(picture.id);
          }}
        />
      )}
    </Modal>
  );
}

function Colours({ colours, onDone }: { colours: PaletteEntry[]; onDone: () => void }) {
  const { style, editAll } = useRoom();
  const [names, setNames] = useState<string[]>(colours.map(() => ""));
  const chosen = colours.map((colour, i) => ({ ...colour, label: names[i]?.trim() ?? "" })).filter((c) => keyOf(c.label));
  const take = () => {
    editAll(
      chosen.map(({ colour, label }) => {
        const known = style.variables.find((v) => v.variable.key === keyOf(label))?.variable;
        return {
          kind: "set-variable",
          variable: known
            ? { ...known, value: colour }
            : { key: keyOf(label), label, type: "colour", value: colour, group: "", description: "", formerly: [] },
        };
      }),
      "",
    );
    onDone();
  };
  return (
    <>
      <p>Largest areas first. Name the ones to add; the name of an existing variable sets its colour.</p>
      <ul className={classes.palette}>
        {colours.map((colour, i) => (
          <li key={colour.colour}>
            <span className={classes.patch} style={{ background: colour.colour }} aria-hidden="true" />
            <span className={classes.figures}>
              {colour.colour}
              <span className="soft">{(colour.share * 100).toFixed(1)} %</span>
            </span>
            {colour.brand ? (
              <span>is {colour.brand} already</span>
            ) : (
              <TextInput
                aria-label={`Name for ${colour.colour}`}
                placeholder="name it to add it"
                list="colour-names"
                value={names[i]}
                onChange={(e) => setNames(names.map((n, at) => (at === i ? e.currentTarget.value : n)))}
              />
            )}
          </li>
        ))}
      </ul>
      <datalist id="colour-names">
        {style.variables
          .filter((v) => v.variable.type === "colour")
          .map((v) => (
            <option key={v.variable.key} value={v.variable.label} />
          ))}
      </datalist>
      <Button onClick={take} disabled={chosen.length === 0}>
        {`Add ${countOf(chosen.length, "colour")}`}
      </Button>
    </>
  );
}
