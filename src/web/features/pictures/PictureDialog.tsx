import { Button, Modal, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useRef, useState } from "react";
import type { PictureEntry } from "../../api/types";
import { PictureGrid } from "./PictureGrid";
import classes from "./PicturesRoom.module.css";
import { UploadList } from "./UploadList";
import { usePictures } from "./usePictures";
import { useUploads } from "./useUploads";

/** Chooses a picture of the library, or adds one. */
export default function PictureDialog({ onChoose, onClose }: { onChoose: (picture: PictureEntry) => void; onClose: () => void }) {
  const [words, setWords] = useState("");
  const [sought] = useDebouncedValue(words, 150);
  const pictures = usePictures({ words: sought });
  const file = useRef<HTMLInputElement>(null);
  const { uploads, add, forget } = useUploads(onChoose);
  return (
    <Modal opened onClose={onClose} title="Pictures" size={760} closeButtonProps={{ "aria-label": "Close" }}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: dropping and pasting are further ways to the button inside. */}
      <div
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          add(e.dataTransfer.files);
        }}
        onPaste={(e) => e.clipboardData.files.length > 0 && add(e.clipboardData.files)}
      >
        <div className={classes.bar}>
          <TextInput
            aria-label="Search pictures"
            placeholder="Search by name, alt text or tag"
            data-autofocus
            value={words}
            onChange={(e) => setWords(e.currentTarget.value)}
          />
          <Button variant="default" onClick={() => file.current?.click()}>
            Upload a picture
          </Button>
          <input
            ref={file}
            type="file"
            hidden
            accept="image/png,image/jpeg,image/gif,image/svg+xml"
            aria-label="Picture file"
            onChange={(e) => e.currentTarget.files && add(e.currentTarget.files)}
          />
        </div>
        <p className="soft">PNG, JPEG or GIF, at most 5 MB. Wider than 1280 pixels is made smaller; SVG is drawn as PNG.</p>
        <UploadList uploads={uploads} onForget={forget} />
        <PictureGrid pages={pictures} onChoose={onChoose} empty="No picture has these words." />
      </div>
    </Modal>
  );
}
