import { SegmentedControl } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../api/queries";
import type { HandOff } from "../../api/types";
import { FrozenFrame } from "../../shared/FrozenFrame";
import { Pending } from "../../shared/Pending";
import classes from "./HandOffRoom.module.css";

const desktop = 640;
const phone = 375;
const gap = 16;

/** The frozen email as somebody of whom nothing is known gets it, on a desktop and a phone, or its plain text. */
export function FrozenProofs({ handOff }: { handOff: HandOff }) {
  const { id } = handOff.record;
  const [view, setView] = useState("proofs");
  const { ref, width } = useElementSize();
  const html = useQuery(queries.handOffHtml(id));
  const text = useQuery({ ...queries.handOffText(id), enabled: view === "text" });
  const scale = Math.min(1, Math.max(0.3, (width - gap) / (desktop + phone)));
  return (
    <div className={classes.proofs}>
      <SegmentedControl
        size="xs"
        aria-label="As it is seen"
        className={classes.views}
        data={[
          { value: "proofs", label: "Desktop and phone" },
          { value: "text", label: "Plain text" },
        ]}
        value={view}
        onChange={setView}
      />
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1). */}
      <div className={classes.scroll} role="group" aria-label="As it was frozen, scrolling" tabIndex={0}>
        <div ref={ref} className={classes.sides} style={{ gap }}>
          {view === "text" ? (
            text.data === undefined ? (
              <Pending query={text} what="The plain text" />
            ) : (
              <pre className={classes.text}>{text.data}</pre>
            )
          ) : html.data === undefined ? (
            <Pending query={html} what="The frozen email" />
          ) : (
            width > 0 && (
              <>
                <Side html={html.data} name="Desktop" width={desktop} scale={scale} />
                <Side html={html.data} name="Phone" width={phone} scale={scale} />
              </>
            )
          )}
        </div>
      </div>
    </div>
  );
}

function Side({ html, name, width, scale }: { html: string; name: string; width: number; scale: number }) {
  return (
    <figure className={classes.side} style={{ width: width * scale }}>
      <figcaption>
        {name} {width}
      </figcaption>
      <FrozenFrame html={html} name={name} width={width} scale={scale} />
    </figure>
  );
}
