import { Button } from "@mantine/core";
import { Link } from "react-router";
import type { TemplateEntry } from "../../api/types";
import { Thumbnail } from "../../shared/Thumbnail";
import type { useCampaignTypes } from "../../shared/useCampaignTypes";
import { useIs } from "../session/useSession";
import classes from "./TemplatesRoom.module.css";

const states = {
  draft: "draft, no release yet",
  released: "release",
  changed: "draft ahead of release",
  retired: "retired, release",
} as const;

interface Props {
  template: TemplateEntry;
  types: ReturnType<typeof useCampaignTypes>;
  onStart: () => void;
  onDuplicate: () => void;
}

/** A template in the library: as it looks, what authors put into it, and what may be done with it. */
export function TemplateItem({ template, types, onStart, onDuplicate }: Props) {
  const makes = useIs("lead", "designer");
  return (
    <article className={classes.template} aria-label={template.name}>
      <Thumbnail
        subject={{ kind: "template", id: template.id, draft: template.release === 0 }}
        version={`${template.release}.${template.revision}`}
        width={264}
        height={330}
        label={`${template.name}, as it looks`}
      />
      <div className={classes.about}>
        <h2>{template.name}</h2>
        <p className="soft">
          {types.nameOf(template.campaignType)}, {states[template.state]} {template.release > 0 ? template.release : ""}
          {template.private ? ", private" : ""}
        </p>
        <p>{template.description}</p>
        <p className={classes.zones}>
          {template.zones.map((zone) => (
            <span key={zone}>{zone}</span>
          ))}
        </p>
        {types.mayWrite(template.campaignType) && template.release > 0 && template.state !== "retired" && (
          <Button variant="default" onClick={onStart}>
            Start an email
          </Button>
        )}
        {makes && (
          <p className={classes.acts}>
            <Link to={`/templates/${template.id}`}>Open</Link>
            <button type="button" className="plain underlined" onClick={onDuplicate}>
              Duplicate
            </button>
          </p>
        )}
      </div>
    </article>
  );
}
