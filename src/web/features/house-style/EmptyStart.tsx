import { Button } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import classes from "./HouseStyleRoom.module.css";
import { NewVariable } from "./NewVariable";
import { useRoom } from "./RoomContext";

/** What to do first in a house style that says nothing yet. */
export function EmptyStart() {
  const { editAll } = useRoom();
  const usual = useMutation({
    mutationFn: () => ask(api.GET("/api/house-styles/usual-variables")),
    onSuccess: (edits) => editAll(edits, ""),
  });
  return (
    <section className={classes.start}>
      <h2>Nothing set yet</h2>
      <p>
        Lay out the variables that nearly every brand needs, with every style written in them; then set a dozen values and watch the
        specimen.
      </p>
      <Button onClick={() => usual.mutate()} loading={usual.isPending}>
        Add the usual variables
      </Button>
      {usual.error && <p role="alert">■ {usual.error.message}</p>}
      <p className="soft">
        Or import what the website has already: its CSS or a file of design tokens, by “Import” above. Or read the colours off the logo.
      </p>
      <h2>Or begin with one of your own</h2>
      <NewVariable />
    </section>
  );
}
