import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import type { StyleEntry } from "../../api/types";
import { useRoom } from "./RoomContext";
import classes from "./WhyPanel.module.css";

type Property = StyleEntry["properties"][number];

/** The pieces of the specimen sheet, with what each shows. They are the same for every house style. */
export const useSpecimenPieces = () => useQuery(queries.specimenPieces);

/** Why a piece of the specimen looks as it does: each property with the chain of layers and variables behind its value. */
export function WhyPanel({ piece, onClose }: { piece: string; onClose: () => void }) {
  const { style, show } = useRoom();
  const pieces = useSpecimenPieces();
  const shown = pieces.data?.find((p) => p.piece === piece)?.shows ?? [];
  const found = shown.flatMap((s) => {
    const entry = style.styles.find((e) => e.name === s.style);
    const property = entry?.properties.find((p) => p.name === s.property);
    return entry && property ? [{ entry, property }] : [];
  });
  return (
    <section className={classes.panel} aria-label="Why this value">
      <header>
        <h2>Why it looks so</h2>
        <button type="button" className="plain" aria-label="Close" onClick={onClose}>
          ✕
        </button>
      </header>
      <dl>
        {found.map(({ entry, property }) => (
          <div key={`${entry.name}/${property.name}`}>
            <dt>
              <button
                type="button"
                className="plain underlined"
                onClick={() => show({ tab: "styles", style: entry.name, property: property.name })}
              >
                {entry.label}, {property.label.toLowerCase()}
              </button>
            </dt>
            <dd>
              {property.type === "colour" && <span className={classes.chip} style={{ background: property.resolved }} />}
              {chainOf(property)}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** The chain of layers behind a value, in one line, outermost first. */
export function chainOf(property: Property): string {
  if (property.sameAs) {
    return `${property.resolved}, as ${property.sameAs}`;
  }
  const said = property.layers.map((l) => `${l.layer} says ${l.value}`).join(", then ");
  const through = property.through.length > 1 ? `, through ${property.through.slice(1).join(", ")}` : "";
  return said ? `${said}${through}${said.endsWith(property.resolved) ? "" : `: ${property.resolved}`}` : `${property.resolved}, as usual`;
}
