import { Button, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { countOf } from "../../shared/format";
import { useIs } from "../session/useSession";
import { PictureGrid } from "./PictureGrid";
import { PictureSheet } from "./PictureSheet";
import classes from "./PicturesRoom.module.css";
import { UploadList } from "./UploadList";
import { usePicture, usePictures, useTags, useWatchedPictures } from "./usePictures";
import { useUploads } from "./useUploads";

/** The library of pictures: what there is, and everything about the chosen one. */
export default function PicturesRoom() {
  useWatchedPictures();
  const [search, setSearch] = useSearchParams();
  const [words, setWords] = useState("");
  const [sought] = useDebouncedValue(words, 150);
  const tag = search.get("tag") ?? undefined;
  const replaced = search.has("replaced");
  const pictures = usePictures({ words: sought, tag, replaced });
  const tags = useTags();
  const [chosen, setChosen] = useState<string>();
  const mayAdd = useIs("lead", "designer", "author");
  const { uploads, add, forget } = useUploads((picture) => setChosen(picture.id));
  const file = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);

  // A picture is pasted wherever the focus is, but not into a field that takes text.
  const take = useRef(add);
  take.current = add;
  useEffect(() => {
    const paste = (event: ClipboardEvent) => mayAdd && event.clipboardData?.files.length && take.current(event.clipboardData.files);
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, [mayAdd]);

  const filter = (name: string, count: number | undefined, on: boolean, to: Record<string, string>) => (
    <button key={name} type="button" className={`plain ${classes.filter}`} aria-current={on} onClick={() => setSearch(to)}>
      <span>{name}</span>
      {count !== undefined && <span className="soft">{count}</span>}
    </button>
  );
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping files is a second way to the button inside.
    <div
      className={classes.room}
      data-over={over}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(mayAdd);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        if (mayAdd) {
          add(e.dataTransfer.files);
        }
      }}
    >
      <nav className={classes.filters} aria-label="Tags">
        <h1>Pictures</h1>
        {filter("All pictures", undefined, !tag && !replaced, {})}
        {tags.data?.map((t) => filter(t.tag, t.pictures, tag === t.tag, { tag: t.tag }))}
        {filter("Replaced", undefined, replaced, { replaced: "" })}
      </nav>
      <section className={classes.middle} aria-label="Library of pictures">
        <div className={classes.bar}>
          <TextInput
            aria-label="Search pictures"
            placeholder="Search by name, alt text or tag"
            value={words}
            onChange={(e) => setWords(e.currentTarget.value)}
          />
          <span className="soft">{pictures.data && countOf(pictures.data.pages[0]?.count ?? 0, "picture")}</span>
          {mayAdd && (
            <>
              <Button onClick={() => file.current?.click()}>Add pictures</Button>
              <input
                ref={file}
                type="file"
                multiple
                hidden
                accept="image/png,image/jpeg,image/gif,image/svg+xml"
                aria-label="Picture files"
                onChange={(e) => e.currentTarget.files && add(e.currentTarget.files)}
              />
            </>
          )}
        </div>
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
                : "No picture yet. Add the logo first."
          }
        />
      </section>
      <aside className={classes.side} aria-label="The chosen picture">
        {chosen ? (
          <Chosen key={chosen} id={chosen} onChoose={setChosen} />
        ) : (
          <p className="soft">Choose a picture to see its sizes, its alt text and where it is used.</p>
        )}
      </aside>
    </div>
  );
}

function Chosen({ id, onChoose }: { id: string; onChoose: (id: string) => void }) {
  const picture = usePicture(id, true);
  return picture ? <PictureSheet picture={picture} onChoose={onChoose} /> : null;
}
