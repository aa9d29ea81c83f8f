import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";

/** What holds for every campaign type, as the policy's lists name it. */
export const everywhere = "*";

/** Chooses all campaign types or one. */
export function CampaignTypeSelect({ value, onChange }: { value: string; onChange: (type: string) => void }) {
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  return (
    <label>
      For{" "}
      <select aria-label="Campaign type" value={value} onChange={(e) => onChange(e.currentTarget.value)}>
        <option value={everywhere}>all campaign types</option>
        {types.data?.map((t) => (
          <option key={t.key} value={t.key}>
            {t.name}
          </option>
        ))}
      </select>
    </label>
  );
}
