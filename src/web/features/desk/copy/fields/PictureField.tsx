import { Suspense, useEffect, useRef, useState } from "react";
import type { PictureEntry } from "../../../../api/types";
import { sizeOf } from "../../../../shared/format";
import { lazily } from "../../../../shared/lazily";
import { usePicture } from "../../../pictures/usePictures";
import classes from "./fields.module.css";

const PictureDialog = lazily(() => import("../../../pictures/PictureDialog"));

interface Props {
  label: string;
  picture: string;
  /** The picture that a brand variable which stands here comes to. */
  comesTo?: string;
  asked: number;
  note: string;
  onChoose: (picture: PictureEntry) => void;
  onTakeOut: () => void;
}

/** The chosen picture with its figures, and the way to another. */
export function PictureField({ label, picture, comesTo, asked, note, onChoose, onTakeOut }: Props) {
  const [choosing, setChoosing] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const refers = comesTo !== undefined && picture.startsWith("{");
  const shown = usePicture(refers ? comesTo : picture);
  useEffect(() => {
    if (asked > 0) {
      button.current?.focus();
    }
  }, [asked]);

  return (
    <div className={classes.field}>
      <p className={classes.label}>
        <span>{label}</span>
        <span className={classes.figure}>{shown && `${shown.width} × ${shown.height}, ${sizeOf(shown.bytes)}`}</span>
      </p>
      <div className={classes.picture}>
        {shown ? <img src={shown.files.at(-1)?.address} alt="" /> : <span className={classes.nopicture} />}
        <span>
          {shown?.name ?? "None yet"}
          {refers && <span className="soft">, the brand's</span>}
          <br />
          <button type="button" className="plain underlined" ref={button} onClick={() => setChoosing(true)}>
            {shown ? "Choose another" : "Choose a picture"}
          </button>
          {picture && (
            <>
              {" · "}
              <button type="button" className="plain underlined" onClick={onTakeOut}>
                Remove
              </button>
            </>
          )}
        </span>
      </div>
      {note && <p className={classes.small}>{note}</p>}
      <Suspense fallback={null}>
        {choosing && (
          <PictureDialog
            onChoose={(chosen) => {
              onChoose(chosen);
              setChoosing(false);
            }}
            onClose={() => setChoosing(false)}
          />
        )}
      </Suspense>
    </div>
  );
}
