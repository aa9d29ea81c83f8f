import { Button, Modal } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ask } from "../../../api/client";
import type { PictureEntry } from "../../../api/types";
import classes from "./fields.module.css";

interface Props {
  label: string;
  picture: string;
  asked: number;
  note: string;
  onChoose: (picture: PictureEntry) => void;
}

/** The chosen picture with its figures, and the way to another. */
export function PictureField({ label, picture, asked, note, onChoose }: Props) {
  const [choosing, setChoosing] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const pictures = usePictures();
  const shown = pictures.data?.find((p) => p.id === picture);
  useEffect(() => {
    if (asked > 0) {
      button.current?.focus();
    }
  }, [asked]);

  const choose = (chosen: PictureEntry) => {
    onChoose(chosen);
    setChoosing(false);
  };

  return (
    <div className={classes.field}>
      <p className={classes.label}>
        <span>{label}</span>
        <span className={classes.figure}>{shown && `${shown.width} × ${shown.height}, ${Math.ceil(shown.bytes / 1024)} KB`}</span>
      </p>
      <div className={classes.picture}>
        {shown ? <img src={shown.address} alt="" /> : <span className={classes.nopicture} />}
        <span>
          {shown?.name ?? "None yet"}
          <br />
          <button type="button" className="plain underlined" ref={button} onClick={() => setChoosing(true)}>
            {shown ? "Choose another" : "Choose a picture"}
          </button>
        </span>
      </div>
      {note && <p className={classes.small}>{note} px</p>}
      {choosing && <PictureDialog pictures={pictures.data ?? []} onChoose={choose} onClose={() => setChoosing(false)} />}
    </div>
  );
}

const usePictures = () => useQuery({ queryKey: ["pictures"], queryFn: () => ask(api.GET("/api/pictures")) });

function PictureDialog({
  pictures,
  onChoose,
  onClose,
}: {
  pictures: PictureEntry[];
  onChoose: (picture: PictureEntry) => void;
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState<string>();
  const [busy, setBusy] = useState(false);

  const upload = async (chosen: File) => {
    setBusy(true);
    setFault(undefined);
    const body = new FormData();
    body.append("file", chosen);
    try {
      const added = await ask(api.POST("/api/pictures", { body: body as never, bodySerializer: (b) => b as unknown as FormData }));
      await queries.invalidateQueries({ queryKey: ["pictures"] });
      onChoose(added);
    } catch (problem) {
      setFault((problem as Error).message);
    } finally {
      setBusy(false);
    }
  };

  return (
    <Modal opened onClose={onClose} title="Pictures" size={720} closeButtonProps={{ "aria-label": "Close" }}>
      <div className={classes.upload}>
        <Button variant="default" loading={busy} onClick={() => file.current?.click()}>
          Upload a picture
        </Button>
        <span className="soft">PNG or JPEG, at most 5 MB. Wider than 1280 pixels is made smaller.</span>
        <input
          ref={file}
          type="file"
          hidden
          accept="image/png,image/jpeg"
          aria-label="Picture file"
          onChange={(e) => e.currentTarget.files?.[0] && upload(e.currentTarget.files[0])}
        />
      </div>
      {fault && (
        <p className={classes.finding} data-severity="stop" role="alert">
          ■ {fault}
        </p>
      )}
      <ul className={classes.shelf}>
        {pictures.map((picture) => (
          <li key={picture.id}>
            <button type="button" className={`plain ${classes.pick}`} onClick={() => onChoose(picture)}>
              <img src={picture.address} alt="" loading="lazy" />
              <span>{picture.name}</span>
              <span className="soft">
                {picture.width} × {picture.height}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
