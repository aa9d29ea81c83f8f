import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { queries } from "../api/queries";
import type { ThumbnailSubject } from "../api/types";
import classes from "./Thumbnail.module.css";

interface Props {
  subject: ThumbnailSubject;
  /** Changes with what there is to see. */
  version: string;
  width: number;
  height: number;
  /** No taller than what it shows. */
  fitted?: boolean;
  /** None: what it is stands beside it. */
  label: string;
}

/** The small picture of an email, template or saved row as it looks; until it is drawn, lines in its place. */
export function Thumbnail({ subject, version, width, height, fitted = false, label }: Props) {
  const { data } = useQuery(queries.thumbnail(subject, version));
  // While a newer one is drawn, the former says more than lines do.
  const former = useRef<{ id: string; height: number }>(undefined);
  if (data?.id) {
    former.current = { id: data.id, height: Math.round((data.height * width) / data.width) };
  }
  const shown = former.current;
  return (
    <div className={classes.sheet} style={{ width, height: fitted && shown ? Math.min(height, shown.height) : height }}>
      {shown ? <img src={`/api/thumbnails/${shown.id}`} alt={label} /> : <div />}
    </div>
  );
}
