import { useEffect, useRef, useState } from "react";
import type { PictureEntry } from "../../../../api/types";
import { sizeOf } from "../../../../shared/format";
import { lazily } from "../../../../shared/lazily";
import { onlyNode, writeNode } from "../../../../shared/nodes";
import { NodeMenu } from "../../../nodes/NodeMenu";
import { useNodeOffers } from "../../../nodes/nodeOffers";
import { usePicture } from "../../../pictures/usePictures";
import classes from "./fields.module.css";

const PictureDialog = lazily(() => import("../../../pictures/PictureDialog"));

interface Props {
  label: string;
  picture: string;
  /** The picture that a brand variable or snippet which stands here comes to. */
  comesTo?: string;
  asked: number;
  note: string;
  onChoose: (picture: PictureEntry) => void;
  onTakeOut: () => void;
  /** Where a snippet that is a picture may stand. */
  onNode?: (picture: string) => void;
}

/** The chosen picture with its figures, and the way to another. */
export function PictureField({ label, picture, comesTo, asked, note, onChoose, onTakeOut, onNode }: Props) {
  const [choosing, setChoosing] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const node = onlyNode(picture);
  const { find, can } = useNodeOffers();
  const [inserting, setInserting] = useState(false);
  const refers = comesTo !== undefined && (picture.startsWith("{") || node !== undefined);
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
          {refers && <span className="soft">{node ? `, the snippet ${find(node)?.name ?? node.key}` : ", the brand's"}</span>}
          <span className={classes.acts}>
            <button type="button" className="plain underlined" ref={button} onClick={() => setChoosing(true)}>
              {shown ? "Choose another" : "Choose a picture"}
            </button>
            {onNode && can && (
              <NodeMenu
                sort="picture"
                opened={inserting}
                onClose={() => setInserting(false)}
                onChoose={(chosen) => {
                  setInserting(false);
                  onNode(writeNode(chosen));
                }}
              >
                <button type="button" className="plain underlined" aria-expanded={inserting} onClick={() => setInserting(true)}>
                  Use a snippet
                </button>
              </NodeMenu>
            )}
            {picture && (
              <button type="button" className="plain underlined" onClick={onTakeOut}>
                Remove
              </button>
            )}
          </span>
        </span>
      </div>
      {note && <p className={classes.small}>{note}</p>}
      {choosing && (
        <PictureDialog
          onChoose={(chosen) => {
            onChoose(chosen);
            setChoosing(false);
          }}
          onClose={() => setChoosing(false)}
        />
      )}
    </div>
  );
}
