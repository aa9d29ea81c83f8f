import { NativeSelect } from "@mantine/core";
import { useCampaignTypes } from "../../shared/useCampaignTypes";

/** What holds for every campaign type, as the policy's lists name it. */
export const everywhere = "*";

/** Chooses all campaign types or one. */
export function CampaignTypeSelect({ value, onChange }: { value: string; onChange: (type: string) => void }) {
  const types = useCampaignTypes();
  return (
    <NativeSelect
      label="Campaign type"
      w={260}
      data={[{ value: everywhere, label: "All campaign types" }, ...types.listed]}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
    />
  );
}
