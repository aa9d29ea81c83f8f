import { NativeSelect } from "@mantine/core";
import type { MarkedWords, ReviewAgainst, ReviewComparison, SeenChange } from "../../api/types";
import { writtenMoment } from "../../shared/format";
import { MarkedText } from "./MarkedText";
import classes from "./ReviewRoom.module.css";

export const againstNames: Record<ReviewAgainst, string> = {
  approval: "the last approval",
  asked: "when it was asked before",
  "hand-off": "what was handed off",
  earlier: "the last one approved",
  template: "the template",
};

const aDay = /^\d{4}-\d\d-\d\d$/;

// What is approved is the day as it is stored; read it is as everywhere.
const written = ({ field, marks }: SeenChange): MarkedWords[] =>
  field === "sendDay" ? marks.map((part) => (aDay.test(part.text) ? { ...part, text: writtenMoment(part.text) } : part)) : marks;

interface Props {
  comparison: ReviewComparison;
  against: ReviewAgainst[];
  chosen?: SeenChange;
  onAgainst: (next: ReviewAgainst) => void;
  onChoose: (change: SeenChange) => void;
}

/** What is not as it was, in the order it is read; apart what changed by itself. */
export function ChangeList({ comparison, against, chosen, onAgainst, onChoose }: Props) {
  const made = comparison.changes.filter((c) => !c.byItself);
  const itself = comparison.changes.filter((c) => c.byItself);
  const list = (changes: SeenChange[]) => (
    <ul>
      {changes.map((change) => (
        <li key={`${change.kind}/${change.row}/${change.block}/${change.field}/${change.name}`}>
          <button type="button" className="plain" aria-current={change === chosen} data-change onClick={() => onChoose(change)}>
            <b>{change.name}</b>
            <span>{change.marks.length > 0 ? <MarkedText marks={written(change)} /> : change.note}</span>
          </button>
        </li>
      ))}
    </ul>
  );
  return (
    <section aria-label="What changed" className={classes.changes}>
      <h2>What changed</h2>
      <NativeSelect
        className={classes.against}
        size="xs"
        label="Compared with"
        value={comparison.against}
        onChange={(e) => onAgainst(e.currentTarget.value as ReviewAgainst)}
        data={against.map((one) => ({ value: one, label: againstNames[one] }))}
      />
      {comparison.changes.length === 0 && <p className="soft">Nothing: it is as it was.</p>}
      {list(made)}
      {itself.length > 0 && (
        <>
          <h3>Changed by itself</h3>
          {list(itself)}
        </>
      )}
    </section>
  );
}
