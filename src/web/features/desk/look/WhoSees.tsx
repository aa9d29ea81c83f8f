import { NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { queries } from "../../../api/queries";
import type { Audiences, Condition, DeskBlock, DeskCondition, DeskRow } from "../../../api/types";
import { lazily } from "../../../shared/lazily";
import { useLiveField } from "../../../shared/useLiveField";
import { everyone, isComplete, isEveryone } from "../../readers/conditions";
import classes from "./LookPanel.module.css";

const ConditionEditor = lazily(() => import("../../readers/ConditionEditor"));

/** Which readers see the row and its pieces: an audience that has a name, or any condition where what is said is open. */
export function WhoSees({ row, blocks }: { row: DeskRow; blocks: DeskBlock[] }) {
  const plan = useQuery(queries.audiences).data;
  const open = blocks.filter((b) => b.content.allowed);
  if (!plan || (!row.audienceAllowance.allowed && !row.shownAllowance.allowed && open.length === 0)) {
    return null;
  }
  return (
    <fieldset className={classes.screens}>
      <legend>Who sees it</legend>
      {plan.fields.length === 0 ? (
        <p className={classes.note}>
          Everyone. Nothing is known of readers yet by which some could be told from others.{" "}
          <Link to="/readers/fields">Declare a field</Link>
        </p>
      ) : (
        <>
          {(row.audienceAllowance.allowed || row.shownAllowance.allowed) && (
            <Seen
              row={row}
              piece={row.piece}
              name="The whole row"
              condition={row.condition ?? undefined}
              free={row.shownAllowance.allowed}
              plan={plan}
            />
          )}
          {open.map((block) => (
            <Seen key={block.id} row={row} piece={block.id} name={block.name} condition={block.condition ?? undefined} free plan={plan} />
          ))}
        </>
      )}
    </fieldset>
  );
}

interface SeenProps {
  row: DeskRow;
  piece: string;
  name: string;
  condition?: DeskCondition;
  /** Whether any condition may be said, and not only an audience chosen. */
  free: boolean;
  plan: Audiences;
}

const own = "own condition";

function Seen({ row, piece, name, condition, free, plan }: SeenProps) {
  const [value, show] = useLiveField<Condition>(condition?.condition ?? everyone, `${row.id}/${piece}/condition`, (next) =>
    isComplete(next, plan.fields) ? { kind: "set-condition", row: row.id, piece, condition: next } : undefined,
  );
  // Whoever says that it is to be a condition of its own has asked nothing yet.
  const [asks, setAsks] = useState(false);
  const isOwn = value.kind !== "audience" && (!isEveryone(value) || asks);
  const choose = (choice: string) => {
    setAsks(choice === own);
    if (choice !== own) {
      show(choice ? { kind: "audience", key: choice } : everyone);
    } else if (value.kind === "audience") {
      show(plan.audiences.find((a) => a.audience.key === value.key)?.audience.condition ?? everyone);
    }
  };
  const offered = plan.audiences.filter((a) => !a.audience.retired || (value.kind === "audience" && value.key === a.audience.key));
  return (
    <div className={classes.seen}>
      <NativeSelect
        label={name}
        className={classes.screen}
        value={value.kind === "audience" ? value.key : isOwn ? own : ""}
        onChange={(e) => choose(e.currentTarget.value)}
        data={[
          { value: "", label: "Everyone" },
          ...offered.map(({ audience }) => ({ value: audience.key, label: audience.name })),
          ...(value.kind === "audience" && !offered.some((a) => a.audience.key === value.key)
            ? [{ value: value.key, label: `"${value.key}", which is not there` }]
            : []),
          ...(free || isOwn ? [{ value: own, label: "Own condition" }] : []),
        ]}
      />
      {isOwn && (
        <ConditionEditor
          label={`Who sees it: ${name}`}
          bare
          condition={value}
          plan={plan}
          audiences
          disabled={!free}
          onChange={(next) => show(next)}
        />
      )}
    </div>
  );
}
