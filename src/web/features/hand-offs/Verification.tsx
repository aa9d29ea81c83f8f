import { Button } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { HandOff } from "../../api/types";
import { clockTime, countOf, sizeOf } from "../../shared/format";
import classes from "./HandOffRoom.module.css";

/** Whether every byte is still what it was. */
export function Verification({ handOff }: { handOff: HandOff }) {
  const verify = useMutation({
    mutationFn: () => ask(api.POST("/api/hand-offs/{id}/verification", { params: { path: { id: handOff.record.id } } })),
  });
  const found = verify.data;
  return (
    <section aria-label="Frozen">
      <h2>Frozen</h2>
      <p className="soft">
        Nothing that changes in the library changes it. Its seal is{" "}
        <code title={handOff.seal}>
          sha256 {handOff.seal.slice(0, 8)}…{handOff.seal.slice(-8)}
        </code>
      </p>
      <div role="status">
        {found?.holds && (
          <p>
            ✓ Verified {clockTime(found.at)}: {countOf(found.files, "file")}, {sizeOf(found.bytes)}, each byte as it was.
          </p>
        )}
        {found && !found.holds && (
          <ul className={classes.fault}>
            {found.faults.map((fault) => (
              <li key={fault}>■ {fault}</li>
            ))}
          </ul>
        )}
      </div>
      {verify.error && <p role="alert">■ {verify.error.message}</p>}
      <Button variant="default" size="xs" loading={verify.isPending} onClick={() => verify.mutate()}>
        {found ? "Verify again" : "Verify"}
      </Button>
    </section>
  );
}
