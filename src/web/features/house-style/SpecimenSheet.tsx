import { useEffect, useRef, useState } from "react";
import { asScheme } from "../../shared/scheme";
import classes from "./SpecimenSheet.module.css";

/** Every style in use, compiled like any email: light or dark, desktop or phone. */
export function SpecimenSheet({ html, kept }: { html: string; kept: string }) {
  const [dark, setDark] = useState(false);
  const [phone, setPhone] = useState(false);
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(700);
  const [ready, setReady] = useState(false);

  // The frame's page is patched rather than loaded anew, so that dragging a colour does not flicker.
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page || !ready) {
      return;
    }
    const made = new DOMParser().parseFromString(asScheme(html, dark), "text/html");
    page.head.replaceChildren(...Array.from(made.head.childNodes, (node) => page.importNode(node, true)));
    page.body.replaceWith(page.importNode(made.body, true));
    setHeight(Math.ceil(page.body.getBoundingClientRect().height) + 1);
  }, [html, dark, ready]);
  // A phone's columns stand lower; the frame grows with them.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the height depends on the width that "phone" sets.
  useEffect(() => {
    const body = frame.current?.contentDocument?.body;
    if (body) {
      setHeight(Math.ceil(body.getBoundingClientRect().height) + 1);
    }
  }, [phone]);

  const width = phone ? 375 : 640;
  const toggle = (name: string, on: boolean, act: () => void) => (
    <button key={name} type="button" className={`plain ${classes.toggle}`} aria-pressed={on} onClick={act}>
      {name}
    </button>
  );
  return (
    <section className={classes.table} aria-label="Specimen sheet">
      <p className={classes.line}>
        <strong>Specimen</strong>
        {toggle("Light", !dark, () => setDark(false))}
        {toggle("Dark", dark, () => setDark(true))}
        {toggle("Phone", phone, () => setPhone(!phone))}
        <span className={classes.kept}>kept {kept}</span>
      </p>
      <div className={classes.sheet} style={{ width: phone ? 375 : "100%", maxWidth: width }}>
        <iframe
          ref={frame}
          title="Specimen"
          onLoad={() => setReady(true)}
          sandbox="allow-same-origin"
          srcDoc="<!doctype html><html><head></head><body></body></html>"
          tabIndex={-1}
          style={{ height }}
        />
      </div>
    </section>
  );
}
