import { NativeSelect } from "@mantine/core";
import type { RowKind } from "../../api/types";
import { rowKinds } from "./rowKinds";

/** Chooses what a row is for. */
export function RowKindSelect({ value, className, onChange }: { value: RowKind; className?: string; onChange: (kind: RowKind) => void }) {
  return (
    <NativeSelect
      label="Row kind"
      className={className}
      data={rowKinds}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value as RowKind)}
    />
  );
}
