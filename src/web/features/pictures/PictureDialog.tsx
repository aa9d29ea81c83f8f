import { Button, Modal } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { PictureEntry } from "../../api/types";
import { FileDrop } from "../../shared/FileDrop";
import { SearchField } from "../../shared/SearchField";
import { PictureGrid } from "./PictureGrid";
import classes from "./PicturesRoom.module.css";
import { pictureTypes } from "./pictureTypes";
import { UploadList } from "./UploadList";
import { useUploads } from "./useUploads";

/** Chooses a picture of the library, or adds one. */
export default function PictureDialog({ onChoose, onClose }: { onChoose: (picture: PictureEntry) => void; onClose: () => void }) {
  const [words, setWords] = useState("");
  const [sought] = useDebouncedValue(words, 150);
  const pictures = useInfiniteQuery(queries.pictures({ q: sought || undefined }));
  const { uploads, add, forget } = useUploads(onChoose);
  return (
    <Modal opened onClose={onClose} title="Pictures" size={760} closeButtonProps={{ "aria-label": "Close" }}>
      <FileDrop label="Picture file" accept={pictureTypes} onFiles={add}>
        {(choose) => (
          <>
            <div className={classes.bar}>
              <SearchField
                label="Search pictures"
                placeholder="Search by name, alt text or tag"
                value={words}
                onChange={setWords}
                autoFocus
              />
              <Button variant="default" onClick={choose}>
                Upload a picture
              </Button>
            </div>
            <p className="soft">PNG, JPEG or GIF, at most 5 MB. Wider than 1280 pixels is made smaller; SVG is drawn as PNG.</p>
            <UploadList uploads={uploads} onForget={forget} />
            <PictureGrid
              pages={pictures}
              onChoose={onChoose}
              empty={sought ? "No picture has these words." : "No picture yet. Upload the first."}
            />
          </>
        )}
      </FileDrop>
    </Modal>
  );
}
