import { NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../../../api/queries";
import type { MergeFieldEntry, SampleReader } from "../../../api/types";
import { DayField } from "../../../shared/DayField";
import { keyName } from "../../../shared/keys";
import classes from "./ProofTable.module.css";
import type { ReadAs } from "./useViews";

interface Props {
  as: ReadAs;
  readers: SampleReader[];
  loaded: boolean;
  fault?: string;
  onAs: (as?: ReadAs) => void;
  onStep: (by: 1 | -1) => void;
}

/** "Is a member: no, Where they live: the valley": what is not said is not known. */
const saidOf = (made: Record<string, string>, fields: MergeFieldEntry[]) =>
  Object.entries(made)
    .map(([key, value]) => `${fields.find((f) => f.field.key === key)?.field.label ?? key}: ${value.replaceAll(";", ", ")}`)
    .join(", ") || "of whom nothing is known";

/** Which sample reader the proofs are looked at as, and on which day. */
export function ReaderBar({ as, readers, loaded, fault, onAs, onStep }: Props) {
  const fields = useQuery({ ...queries.audiences, enabled: as.made !== undefined }).data?.fields ?? [];
  const at = readers.findIndex((r) => r.id === as.reader);
  return (
    <div className={classes.reader} role="group" aria-label="As a reader">
      {as.made ? (
        <span>
          A made-up reader. {saidOf(as.made, fields)}.{" "}
          <button type="button" className="plain underlined" onClick={() => onAs()}>
            Close
          </button>
        </span>
      ) : readers.length > 0 ? (
        <>
          <NativeSelect
            aria-label="Sample reader"
            size="xs"
            value={as.reader}
            onChange={(e) => onAs({ ...as, reader: e.currentTarget.value })}
            data={[
              ...(at < 0 ? [{ value: as.reader, label: "Nobody in particular" }] : []),
              ...readers.map((r) => ({ value: r.id, label: r.name })),
            ]}
          />
          <span className="soft">{at >= 0 && `sample ${at + 1} of ${readers.length}`}</span>
          <button type="button" className="plain" aria-label="Reader before" title={`${keyName("Shift")} R`} onClick={() => onStep(-1)}>
            ←
          </button>
          <button type="button" className="plain" aria-label="Next reader" title="R" onClick={() => onStep(1)}>
            →
          </button>
        </>
      ) : (
        loaded && (
          <span>
            There are no sample readers yet. <Link to="/readers/samples">Add some</Link>
          </span>
        )
      )}
      <DayField label="On another day" placeholder="on the day it goes out" bare value={as.day} onChange={(day) => onAs({ ...as, day })} />
      {fault && <span role="alert">■ {fault}</span>}
    </div>
  );
}
