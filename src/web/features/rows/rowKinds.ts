import type { RowKind } from "../../api/types";

/** The row kinds in the order an email has them. */
export const rowKinds: { value: RowKind; label: string }[] = [
  { value: "header", label: "Header" },
  { value: "hero", label: "Hero" },
  { value: "main", label: "Main" },
  { value: "secondary", label: "Secondary" },
  { value: "supporting", label: "Supporting" },
  { value: "advert", label: "Advert" },
  { value: "sign-off", label: "Sign-off" },
  { value: "footer", label: "Footer" },
  { value: "legal", label: "Legal" },
];

export const kindLabel = (kind: RowKind) => rowKinds.find((k) => k.value === kind)?.label ?? kind;
