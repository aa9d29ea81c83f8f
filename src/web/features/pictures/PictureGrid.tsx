import type { UseInfiniteQueryResult } from "@tanstack/react-query";
import type { PictureEntry } from "../../api/types";
import { sizeOf } from "../../shared/format";
import { Listing } from "../../shared/ListRoom";
import classes from "./PicturesRoom.module.css";

interface Props {
  pages: UseInfiniteQueryResult<{ pages: { pictures: PictureEntry[] }[] }>;
  chosen?: string;
  onChoose: (picture: PictureEntry) => void;
  empty: string;
}

/** Pictures as they look, with their figures; more come as they are asked for. */
export function PictureGrid({ pages, chosen, onChoose, empty }: Props) {
  const pictures = pages.data?.pages.flatMap((p) => p.pictures) ?? [];
  return (
    <Listing pages={pages} what="The pictures" count={pictures.length} empty={empty}>
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
    </Listing>
  );
}
