import { NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";

/** What holds for every campaign type, as the policy's lists name it. */
export const everywhere = "*";

/** Chooses all campaign types or one. */
export function CampaignTypeSelect({ value, onChange }: { value: string; onChange: (type: string) => void }) {
  const types = useQuery(queries.campaignTypes);
  return (
    <NativeSelect
      label="Campaign type"
      w={260}
      data={[{ value: everywhere, label: "All campaign types" }, ...(types.data ?? []).map((t) => ({ value: t.key, label: t.name }))]}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
    />
  );
}
