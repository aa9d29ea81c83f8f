import { Combobox, useCombobox } from "@mantine/core";
import { type ReactNode, useEffect, useState } from "react";
import type { NodeOffer } from "../../api/types";
import type { InlineNode } from "../../shared/nodes";
import { useNodeOffers } from "./nodeOffers";
import classes from "./nodes.module.css";

export type NodeSort = "words" | "link" | "picture";

interface Props {
  /** What may stand in the place. */
  sort: NodeSort;
  opened: boolean;
  onChoose: (node: InlineNode) => void;
  /** It was left without choosing. */
  onClose: () => void;
  /** What it hangs on. */
  children: ReactNode;
}

const fits: Record<NodeSort, (offer: NodeOffer) => boolean> = {
  words: (offer) => offer.type !== "Picture",
  link: (offer) => offer.kind === "field" || offer.type === "Link",
  picture: (offer) => offer.kind === "snippet" && offer.type === "Picture",
};

/** The snippets and fields that can be put in, found by typing. */
export function NodeMenu({ sort, opened, onChoose, onClose, children }: Props) {
  const { offers } = useNodeOffers();
  const [typed, setTyped] = useState("");
  const combobox = useCombobox({ opened, onDropdownClose: onClose });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the first that fits is the one that Enter takes.
  useEffect(() => {
    if (opened) {
      combobox.selectFirstOption();
      combobox.searchRef.current?.focus();
    } else {
      setTyped("");
    }
  }, [opened, typed, offers.data]);
  const sought = typed.trim().toLowerCase();
  const offered = offers.data?.filter((offer) => !offer.whyNot && fits[sort](offer)) ?? [];
  // By what it is called, or else by what it says.
  const called = offered.filter((offer) => `${offer.name} ${offer.key}`.toLowerCase().includes(sought));
  const shown = called.length > 0 ? called : offered.filter((offer) => offer.words.toLowerCase().includes(sought));
  const groups = [
    { label: "Snippets", all: shown.filter((o) => o.kind === "snippet") },
    { label: "Fields of the reader", all: shown.filter((o) => o.kind === "field") },
  ];
  return (
    <Combobox
      store={combobox}
      width={340}
      position="bottom-start"
      withinPortal
      onOptionSubmit={(value) => {
        const [kind, key = ""] = value.split(":");
        onChoose({ kind: kind as InlineNode["kind"], key });
      }}
    >
      <Combobox.Target targetType="button">{children}</Combobox.Target>
      <Combobox.Dropdown>
        <Combobox.Search
          aria-label="Find a snippet or field"
          placeholder={sort === "words" ? "Find a snippet or field" : "Find a snippet"}
          value={typed}
          onChange={(e) => setTyped(e.currentTarget.value)}
          onKeyDown={(e) => {
            if (e.key === "Escape") {
              e.preventDefault();
              e.stopPropagation();
              onClose();
            }
          }}
        />
        <Combobox.Options className={classes.offers} aria-label="What can be put in" tabIndex={0}>
          {groups.map(
            ({ label, all }) =>
              all.length > 0 && (
                <Combobox.Group key={label} label={label}>
                  {all.map((offer) => (
                    <Combobox.Option key={`${offer.kind}:${offer.key}`} value={`${offer.kind}:${offer.key}`}>
                      <span className={classes.name}>{offer.name}</span>
                      <span className={classes.words}>{offer.type === "Picture" ? offer.description : offer.words}</span>
                    </Combobox.Option>
                  ))}
                </Combobox.Group>
              ),
          )}
          {offers.data && shown.length === 0 && (
            <Combobox.Empty>
              {offered.length > 0
                ? "Nothing of that name."
                : "There is none for this place yet. A lead or designer makes snippets in Snippets."}
            </Combobox.Empty>
          )}
        </Combobox.Options>
      </Combobox.Dropdown>
    </Combobox>
  );
}
