import { type ReactNode, useState } from "react";
import { heightOf } from "./heightOf";

interface Props {
  html: string;
  /** "Desktop". */
  name: string;
  /** CSS pixels of the email, before it is drawn smaller. */
  width: number;
  scale: number;
  /** What is laid over the email, of its page once it is there. */
  over?: (page: Document) => ReactNode;
}

/** An email as it was frozen, drawn to scale. It runs no script; the page around it alone measures how long it is. */
export function FrozenFrame({ html, name, width, scale, over }: Props) {
  const [height, setHeight] = useState(600);
  const [page, setPage] = useState<Document>();
  return (
    <div style={{ position: "relative", width: width * scale, height: height * scale }}>
      <iframe
        title={`${name}, as it was frozen`}
        sandbox="allow-same-origin"
        tabIndex={-1}
        srcDoc={html}
        style={{ width, height, transform: `scale(${scale})` }}
        onLoad={(event) => {
          const opened = event.currentTarget.contentDocument;
          if (opened?.body) {
            opened.body.style.overflow = "hidden";
            setHeight(heightOf(opened.body));
            setPage(opened);
          }
        }}
      />
      {page && over?.(page)}
    </div>
  );
}
