import { Button } from "@mantine/core";
import { useState } from "react";
import { lazily } from "../../shared/lazily";
import { useIsEverywhere } from "../session/useSession";
import classes from "./HouseStyleRoom.module.css";

const NewHouseStyle = lazily(() => import("./NewHouseStyle"));

/** The room of a library that has no house style yet. */
export function NoStyleYet() {
  const leads = useIsEverywhere("lead");
  const [making, setMaking] = useState(false);
  return (
    <section className={classes.start}>
      <title>House style · Golden Rule</title>
      <h1>House style</h1>
      <p>
        A house style says how everything looks that nobody says otherwise about: fonts, sizes, colours, buttons. Rows, templates and emails
        inherit it, so it comes first.
      </p>
      {leads ? (
        <>
          <p>Name it after the brand; then import the CSS of the website, or read the colours off the logo.</p>
          <Button onClick={() => setMaking(true)}>Create the house style</Button>
        </>
      ) : (
        <p>There is none yet. A lead makes it.</p>
      )}
      {making && <NewHouseStyle onClose={() => setMaking(false)} />}
    </section>
  );
}
