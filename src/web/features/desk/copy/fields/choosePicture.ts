import type { DeskBlock, Edit, PictureEntry } from "../../../../api/types";

/** A picture brings the alt text that the library knows it by, in the same step; the author can write over it. */
export function withAlt(row: string, block: DeskBlock, field: string, picture: PictureEntry): Edit[] {
  const set = (name: string, value: Extract<Edit, { kind: "set-fill" }>["value"]): Edit => ({
    kind: "set-fill",
    row,
    piece: block.id,
    field: name,
    value,
  });
  const has = (name: string) => field === "picture" && block.fields.some((f) => f.name === name);
  return [
    ...(picture.alt && has("alt") ? [set("alt", { kind: "words", text: picture.alt })] : []),
    ...(picture.decorative && has("decorative") ? [set("decorative", { kind: "flag", on: true })] : []),
  ];
}

/** Puts a picture into a field. */
export const choosePicture = (row: string, block: DeskBlock, field: string, picture: PictureEntry): Edit[] => [
  { kind: "set-fill", row, piece: block.id, field, value: { kind: "picture", picture: picture.id } },
  ...withAlt(row, block, field, picture),
];
