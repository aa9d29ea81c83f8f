import { useState } from "react";
import { lazily } from "../../shared/lazily";
import { usePicture } from "../pictures/usePictures";
import classes from "./ValueList.module.css";

const PictureDialog = lazily(() => import("../pictures/PictureDialog"));

/** The picture that a variable stands for. */
export function PictureChoice({
  label,
  value,
  disabled,
  onChange,
}: {
  label: string;
  value: string;
  disabled: boolean;
  onChange: (id: string) => void;
}) {
  const [choosing, setChoosing] = useState(false);
  const picture = usePicture(value);
  return (
    <div className={classes.picture}>
      {picture ? <img src={picture.files.at(-1)?.address} alt="" /> : <span className="soft">No picture yet</span>}
      <button type="button" className="plain underlined" disabled={disabled} onClick={() => setChoosing(true)}>
        {picture ? `${picture.name}: choose another` : `Choose the picture of ${label}`}
      </button>
      {choosing && (
        <PictureDialog
          onClose={() => setChoosing(false)}
          onChoose={(chosen) => {
            onChange(chosen.id);
            setChoosing(false);
          }}
        />
      )}
    </div>
  );
}
