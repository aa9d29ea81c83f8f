import type { PictureEntry } from "../../api/types";
import { sizeOf } from "../../shared/format";
import classes from "./PicturesRoom.module.css";
import type { usePictures } from "./usePictures";

interface Props {
  pages: ReturnType<typeof usePictures>;
  chosen?: string;
  onChoose: (picture: PictureEntry) => void;
  empty: string;
}

/** Pictures as they look, with their figures; more come as they are asked for. */
export function PictureGrid({ pages, chosen, onChoose, empty }: Props) {
  const pictures = pages.data?.pages.flatMap((p) => p.pictures) ?? [];
  if (pages.error) {
    return <p role="alert">■ {pages.error.message}</p>;
  }
  if (pages.data && pictures.length === 0) {
    return <p className={classes.empty}>{empty}</p>;
  }
  return (
    <>
      <ul className={classes.shelf}>
        {pictures.map((picture) => (
          <li key={picture.id}>
            <button
              type="button"
              className={`plain ${classes.pick}`}
              aria-pressed={chosen === picture.id}
              onClick={() => onChoose(picture)}
            >
              <span className={classes.thumb}>
                <img src={picture.files.at(-1)?.address} alt="" loading="lazy" />
              </span>
              <span className={classes.named}>{picture.name}</span>
              <span className="soft">
                {picture.width} × {picture.height}, {sizeOf(picture.bytes)}
                {picture.moves && ", moves"}
              </span>
              {!picture.alt && !picture.decorative && <span className={classes.warn}>▲ no alt text</span>}
            </button>
          </li>
        ))}
      </ul>
      {pages.hasNextPage && (
        <button type="button" className={`plain underlined ${classes.more}`} onClick={() => pages.fetchNextPage()}>
          Show more
        </button>
      )}
    </>
  );
}
