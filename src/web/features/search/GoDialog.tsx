import { Combobox, Modal, TextInput, useCombobox } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { Fragment, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { queries } from "../../api/queries";
import type { Session } from "../../api/types";
import { visitedBy } from "../../shared/visited";
import { useIs } from "../session/useSession";
import classes from "./GoDialog.module.css";
import { type Place, placesOf, roomsAndActs } from "./places";

/** Goes to anything by typing: an email, a template, a row, a picture, a brand variable, a room, an act. */
export default function GoDialog({ session, onClose }: { session: Session; onClose: () => void }) {
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  const [sought] = useDebouncedValue(words, 80);
  const found = useQuery(queries.search(sought));
  const makes = useIs("lead", "designer");
  const starts = useIs("lead", "designer", "author");
  const combobox = useCombobox({ opened: true });
  const typed = words.trim().toLowerCase();
  const rooms = roomsAndActs({ makes, starts }).filter((place) => typed === "" || place.name.toLowerCase().includes(typed));
  const all: { label: string; places: Place[] }[] = [
    ...(typed === ""
      ? [{ label: "Opened last", places: visitedBy(session.id).map((v) => placesOf({ ...v, note: "", houseStyle: null, excerpt: null })) }]
      : [{ label: "In the library", places: found.data?.map(placesOf) ?? [] }]),
    { label: "Rooms and acts", places: rooms },
  ].filter((group) => group.places.length > 0);
  const count = all.reduce((sum, group) => sum + group.places.length, 0);
  // What stands first is what Enter goes to, also when the answer comes later.
  const { selectFirstOption } = combobox;
  const drawn = all.flatMap((group) => group.places.map((place) => place.to)).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn is what it depends on.
  useEffect(() => {
    selectFirstOption();
  }, [drawn, selectFirstOption]);

  return (
    <Modal opened onClose={onClose} title="Go to" size={620} yOffset="12vh" centered={false} closeButtonProps={{ "aria-label": "Close" }}>
      <Combobox
        store={combobox}
        onOptionSubmit={(to) => {
          onClose();
          void navigate(to);
        }}
      >
        <Combobox.EventsTarget>
          <TextInput
            data-autofocus
            type="search"
            aria-label="Go to"
            placeholder="An email, a row, a picture, a variable, a room…"
            value={words}
            onChange={(e) => setWords(e.currentTarget.value)}
          />
        </Combobox.EventsTarget>
        <Combobox.Options tabIndex={0} className={classes.found} aria-label="Places">
          {all.map((group) => (
            <Combobox.Group key={group.label} label={group.label}>
              {group.places.map((place) => (
                <Combobox.Option key={place.to} value={place.to} className={classes.place}>
                  <span>
                    {place.name}
                    {place.excerpt && (
                      <span className={classes.excerpt}>
                        {place.excerpt.map((part, i) => (
                          // biome-ignore lint/suspicious/noArrayIndexKey: the parts stand in this order.
                          <Fragment key={i}>{part.found ? <mark>{part.text}</mark> : part.text}</Fragment>
                        ))}
                      </span>
                    )}
                  </span>
                  <span className="soft">{place.note}</span>
                </Combobox.Option>
              ))}
            </Combobox.Group>
          ))}
        </Combobox.Options>
      </Combobox>
      <p role="status" className="soft">
        {found.error?.message ?? (typed && count === 0 && !found.isFetching ? "Nothing is called that." : "")}
      </p>
    </Modal>
  );
}
