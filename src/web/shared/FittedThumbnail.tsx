import { useIntersection } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { askText } from "../api/client";
import classes from "./MailThumbnail.module.css";

interface Props {
  src: string;
  width: number;
  /** Of the tallest frame. */
  most: number;
  label: string;
  screen?: number;
}

/**
 * Like MailThumbnail, its frame as tall as what it shows. That is measured, so its page is of this origin, as a proof's
 * is, and runs no script either.
 */
export function FittedThumbnail({ src, width, most, label, screen = 640 }: Props) {
  const { ref, entry } = useIntersection({ rootMargin: "400px" });
  const [seen, setSeen] = useState(false);
  if (entry?.isIntersecting && !seen) {
    setSeen(true);
  }
  const html = useQuery({ queryKey: ["html", src], enabled: seen, staleTime: Number.POSITIVE_INFINITY, queryFn: () => askText(src) });
  const [height, setHeight] = useState(most);
  const scale = width / screen;
  return (
    <div className={classes.sheet} style={{ width, height }} ref={ref}>
      {html.data !== undefined && (
        <iframe
          srcDoc={html.data}
          title={label}
          sandbox="allow-same-origin"
          tabIndex={-1}
          inert
          onLoad={(e) => {
            const page = e.currentTarget.contentDocument?.body.firstElementChild;
            setHeight(Math.min(most, Math.ceil((page?.getBoundingClientRect().height || most / scale) * scale)));
          }}
          style={{ width: screen, height: most / scale, transform: `scale(${scale})` }}
        />
      )}
    </div>
  );
}
