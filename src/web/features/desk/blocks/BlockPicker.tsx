import { Drawer, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "../../../api/queries";
import type { BlockKind } from "../../../api/types";
import { MailThumbnail } from "../../../shared/MailThumbnail";
import classes from "./BlockPicker.module.css";

const groups = {
  words: "Words",
  pictures: "Pictures",
  links: "Links and buttons",
  articles: "Articles and offers",
  dates: "Dates and places",
  space: "Space",
  service: "Service",
} as const;

interface Props {
  title: string;
  /** CSS pixels of the column it is for. */
  width: number;
  onTake: (kind: BlockKind) => void;
  onClose: () => void;
}

/** Every block kind as it looks in the house style, to take one. */
export default function BlockPicker({ title, width, onTake, onClose }: Props) {
  const [words, setWords] = useState("");
  const kinds = useQuery(queries.blockKinds);
  const wanted = words.toLowerCase();
  const shown = (kinds.data ?? []).filter((k) => `${k.label} ${k.about}`.toLowerCase().includes(wanted));
  return (
    <Drawer
      opened
      onClose={onClose}
      title={title}
      size={420}
      transitionProps={{ duration: 0 }}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      <TextInput
        data-autofocus
        label="Find a block"
        placeholder="button, date, price …"
        value={words}
        onChange={(e) => setWords(e.currentTarget.value)}
        onKeyDown={(e) => e.key === "Enter" && shown[0] && onTake(shown[0])}
      />
      <p className="soft">The column is {width} px wide.</p>
      {kinds.error && <p role="alert">{kinds.error.message}</p>}
      {kinds.data && shown.length === 0 && <p>No block is called that. Clear the words to see all.</p>}
      {Object.entries(groups).map(([group, label]) => {
        const own = shown.filter((k) => k.group === group);
        return own.length === 0 ? null : (
          <section key={group} className={classes.group}>
            <h3>{label}</h3>
            <ul className={classes.kinds}>
              {own.map((kind) => (
                <li key={kind.name}>
                  <button type="button" className={`plain ${classes.kind}`} onClick={() => onTake(kind)}>
                    <MailThumbnail
                      src={`/api/block-kinds/specimen?kind=${kind.name}`}
                      width={128}
                      screen={360}
                      height={74}
                      label={`${kind.label}, as it looks`}
                    />
                    <span>
                      <b>{kind.label}</b>
                      <br />
                      <span className="soft">{kind.about}</span>
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        );
      })}
    </Drawer>
  );
}
