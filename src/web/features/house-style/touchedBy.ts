import type { HouseStyle } from "../../api/types";
import type { Open } from "./RoomContext";

interface Piece {
  piece: string;
  shows: { style: string; property: string }[];
}

/** The pieces of the specimen that what is open changes: a style or one property of it, or a variable with all that is the same as it. */
export function touchedBy({ style, property, variable }: Open, { styles, variables }: HouseStyle, pieces: Piece[]): string[] {
  const same = new Set(variable ? [variable] : []);
  // Variables that follow others, however many lie between.
  for (let size = 0; size !== same.size; ) {
    size = same.size;
    for (const { variable: one } of variables) {
      if (same.has(one.value.slice(1, -1)) && one.value.startsWith("{")) {
        same.add(one.key);
      }
    }
  }
  const isTouched = (shown: { style: string; property: string }) =>
    variable
      ? same.has(
          (styles.find((s) => s.name === shown.style)?.properties.find((p) => p.name === shown.property)?.written ?? "").slice(1, -1),
        )
      : shown.style === style && (!property || shown.property === property);
  return variable || style ? pieces.filter((piece) => piece.shows.some(isTouched)).map((piece) => piece.piece) : [];
}
