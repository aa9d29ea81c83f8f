import { useDraggable } from "@dnd-kit/core";
import { CloseButton } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../../api/queries";
import type { PictureEntry } from "../../../api/types";
import { Listing } from "../../../shared/ListRoom";
import { SearchField } from "../../../shared/SearchField";
import type { Dragged } from "../drag/dragged";
import classes from "./PictureStrip.module.css";

/** Pictures of the library beside the proofs, to be dragged onto a picture there or onto its field. */
export default function PictureStrip({ onClose }: { onClose: () => void }) {
  const [words, setWords] = useState("");
  const [sought] = useDebouncedValue(words, 150);
  const pictures = useInfiniteQuery(queries.pictures({ q: sought || undefined }));
  const all = pictures.data?.pages.flatMap((page) => page.pictures) ?? [];
  return (
    <section className={classes.strip} aria-label="Pictures of the library">
      <header className={classes.head}>
        <SearchField label="Search pictures" placeholder="Search by name, alt text or tag" value={words} onChange={setWords} />
        <span className="soft">Drag one onto a picture in a proof, or onto its field.</span>
        <CloseButton aria-label="Close the pictures" onClick={onClose} />
      </header>
      <Listing pages={pictures} what="The pictures" count={all.length} empty="No picture has these words.">
        <ul className={classes.list}>
          {all.map((picture) => (
            <li key={picture.id}>
              <Thumb picture={picture} />
            </li>
          ))}
        </ul>
      </Listing>
    </section>
  );
}

function Thumb({ picture }: { picture: PictureEntry }) {
  const dragged: Dragged = { kind: "picture", picture, name: picture.name };
  const { setNodeRef, listeners, attributes } = useDraggable({ id: `picture-${picture.id}`, data: dragged });
  return (
    <button type="button" className={`plain ${classes.thumb}`} ref={setNodeRef} {...attributes} {...listeners}>
      <img src={picture.files.at(-1)?.address} alt="" loading="lazy" draggable={false} />
      <span>{picture.name}</span>
    </button>
  );
}
