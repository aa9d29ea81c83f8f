import { NativeSelect } from "@mantine/core";
import { useRowKinds } from "./useRowKinds";

/** Chooses what a row is for. */
export function RowKindSelect({ value, className, onChange }: { value: string; className?: string; onChange: (kind: string) => void }) {
  const kinds = useRowKinds();
  return (
    <NativeSelect
      label="Row kind"
      className={className}
      data={kinds.offeredWith(value)}
      value={kinds.current(value)}
      onChange={(e) => onChange(e.currentTarget.value)}
    />
  );
}
