import { Menu } from "@mantine/core";
import type { ReactNode } from "react";

interface Other {
  key: string;
  name: string;
}

interface Props {
  name: string;
  /** What it may be merged into. */
  others: Other[];
  onMerge: (into: Other) => void;
  children?: ReactNode;
}

/** What is rarely done with a team, a campaign type or a row kind. */
export function MoreMenu({ name, others, onMerge, children }: Props) {
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <button type="button" className="plain" aria-label={`More for ${name}`}>
          ⋯
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        {children}
        {children && <Menu.Divider />}
        <Menu.Label>Merge into, for good</Menu.Label>
        {others.map((other) => (
          <Menu.Item key={other.key} onClick={() => onMerge(other)}>
            {other.name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
