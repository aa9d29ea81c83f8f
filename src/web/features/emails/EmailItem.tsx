import { Menu } from "@mantine/core";
import { Link } from "react-router";
import type { EmailEntry } from "../../api/types";
import { dayOf } from "../../shared/format";
import { Thumbnail } from "../../shared/Thumbnail";
import { useIs } from "../session/useSession";
import classes from "./EmailsRoom.module.css";

export const states = { draft: "Draft", "in-review": "In review", approved: "Approved", "handed-off": "Handed off" };

interface Props {
  email: EmailEntry;
  typeName?: string;
  /** It is to begin another: the next issue of its series, or a copy. */
  onOrigin: (next: boolean) => void;
  onTemplate: () => void;
  onArchive: () => void;
}

/** An email in the list: as it looks, how it stands, and what can be made from it. */
export function EmailItem({ email, typeName, onOrigin, onTemplate, onArchive }: Props) {
  const leads = useIs("lead");
  const makes = useIs("lead", "designer");
  const starts = useIs("lead", "designer", "author");
  return (
    <div className={classes.item}>
      <Link to={`/emails/${email.id}`} className={classes.email}>
        <Thumbnail
          subject={{ kind: "email", id: email.id, draft: false }}
          version={`${email.revision}`}
          width={166}
          height={190}
          label=""
        />
        <span className={classes.name}>{email.name}</span>
        <span className="soft">{typeName}</span>
        <span className={classes.state} data-state={email.state}>
          {states[email.state]}
        </span>
        <span className="soft">
          {email.author}, {dayOf(email.changedAt)}
        </span>
      </Link>
      {starts && (
        <Menu position="bottom-start" width={210}>
          <Menu.Target>
            <button type="button" className={`plain underlined ${classes.more}`} aria-label={`More about ${email.name}`}>
              More
            </button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => onOrigin(true)}>Next issue</Menu.Item>
            <Menu.Item onClick={() => onOrigin(false)}>Copy it</Menu.Item>
            {makes && <Menu.Item onClick={onTemplate}>Make this a template</Menu.Item>}
            {(email.mine || leads) && <Menu.Item onClick={onArchive}>{email.archived ? "Restore" : "Archive"}</Menu.Item>}
          </Menu.Dropdown>
        </Menu>
      )}
    </div>
  );
}
