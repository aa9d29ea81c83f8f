import { Button } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { queries } from "../../api/queries";
import { FileDrop } from "../../shared/FileDrop";
import { countOf } from "../../shared/format";
import { FilterList, ListRoom } from "../../shared/ListRoom";
import { SearchField } from "../../shared/SearchField";
import { useIs } from "../session/useSession";
import { PictureGrid } from "./PictureGrid";
import { PictureSheet } from "./PictureSheet";
import classes from "./PicturesRoom.module.css";
import { pictureTypes } from "./pictureTypes";
import { UploadList } from "./UploadList";
import { usePicture, useWatchedPictures } from "./usePictures";
import { useUploads } from "./useUploads";

const replacedOnes = "\nreplaced";

/** The library of pictures: what there is, and everything about the chosen one. */
export default function PicturesRoom() {
  useWatchedPictures();
  const [search, setSearch] = useSearchParams();
  const [words, setWords] = useState("");
  const [sought] = useDebouncedValue(words, 150);
  const tag = search.get("tag") ?? undefined;
  const replaced = search.has("replaced");
  const pictures = useInfiniteQuery(queries.pictures({ q: sought || undefined, tag, replaced }));
  const tags = useQuery(queries.pictureTags);
  const [chosen, setChosen] = useState(search.get("picture") ?? undefined);
  const mayAdd = useIs("lead", "designer", "author");
  const { uploads, add, forget } = useUploads((picture) => setChosen(picture.id));

  // A picture is pasted wherever the focus is, but not into a field that takes text.
  const take = useRef(add);
  take.current = add;
  useEffect(() => {
    const paste = (event: ClipboardEvent) =>
      mayAdd && !event.defaultPrevented && event.clipboardData?.files.length && take.current(event.clipboardData.files);
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, [mayAdd]);

  return (
    <FileDrop
      label="Picture files"
      className={classes.dropped}
      accept={pictureTypes}
      multiple
      disabled={!mayAdd}
      onFiles={add}
      pasted={false}
    >
      {(choose) => (
        <ListRoom
          title="Pictures"
          label="Library of pictures"
          filters={
            <FilterList
              label="Tags"
              all={[
                { name: "All pictures" },
                ...(tags.data ?? []).map((t) => ({ value: t.tag, name: t.tag, count: t.pictures })),
                { value: replacedOnes, name: "Replaced" },
              ]}
              chosen={replaced ? replacedOnes : tag}
              onChoose={(value) => setSearch(value === replacedOnes ? { replaced: "" } : value ? { tag: value } : {})}
            />
          }
          bar={
            <>
              <SearchField label="Search pictures" placeholder="Search by name, alt text or tag" value={words} onChange={setWords} />
              <span className="soft">{pictures.data && countOf(pictures.data.pages[0]?.count ?? 0, "picture")}</span>
              {mayAdd && <Button onClick={choose}>Add pictures</Button>}
            </>
          }
          aside={
            <aside className={classes.side} aria-label="The chosen picture">
              {chosen ? (
                <Chosen key={chosen} id={chosen} onChoose={setChosen} />
              ) : (
                <p className="soft">Choose a picture to see its sizes, its alt text and where it is used.</p>
              )}
            </aside>
          }
        >
          {mayAdd && (
            <p className={`soft ${classes.how}`}>Drop or paste them here too: PNG, JPEG, GIF, or SVG as a source, at most 5 MB each.</p>
          )}
          <UploadList uploads={uploads} onForget={forget} />
          <PictureGrid
            pages={pictures}
            chosen={chosen}
            onChoose={(picture) => setChosen(picture.id)}
            empty={
              sought || tag
                ? "No picture has these words. Search for others, or add one."
                : replaced
                  ? "No picture was replaced."
                  : "No picture yet. Every email shows pictures from here, each with its alt text and sizes. Add the logo first."
            }
          />
        </ListRoom>
      )}
    </FileDrop>
  );
}

function Chosen({ id, onChoose }: { id: string; onChoose: (id: string) => void }) {
  const picture = usePicture(id, true);
  return picture ? <PictureSheet picture={picture} onChoose={onChoose} /> : null;
}
