import { useState } from "react";

interface Props {
  html: string;
  /** "Desktop". */
  name: string;
  /** CSS pixels of the email, before it is drawn smaller. */
  width: number;
  scale: number;
  /** How high the email is at that width, and its page, once it is there. */
  onOpened?: (height: number, page: Document) => void;
}

/** CSS pixels that a page in a frame is high: the frame is made as high, so that the room scrolls and not the frame. */
export const heightOf = (body: HTMLElement) => Math.ceil(body.getBoundingClientRect().height) + 1;

/** An email as it was frozen, drawn to scale. It runs no script; the page around it alone measures how long it is. */
export function FrozenFrame({ html, name, width, scale, onOpened }: Props) {
  const [height, setHeight] = useState(600);
  return (
    <div style={{ width: width * scale, height: height * scale }}>
      <iframe
        title={`${name}, as it was frozen`}
        sandbox="allow-same-origin"
        tabIndex={-1}
        srcDoc={html}
        style={{ width, height, transform: `scale(${scale})` }}
        onLoad={(event) => {
          const page = event.currentTarget.contentDocument;
          if (page?.body) {
            page.body.style.overflow = "hidden";
            setHeight(heightOf(page.body));
            onOpened?.(heightOf(page.body), page);
          }
        }}
      />
    </div>
  );
}
