import { Modal } from "@mantine/core";
import source from "../../../../docs/glossary.md?raw";
import classes from "./GlossaryDialog.module.css";

// The lines of its table, without the first.
const entries = source
  .split("\n")
  .filter((line) => line.startsWith("| "))
  .slice(1)
  .map((line) => line.split("|").map((part) => part.trim()));

/** What each of our words means, from the project's own glossary. */
export default function GlossaryDialog({ onClose }: { onClose: () => void }) {
  return (
    <Modal opened onClose={onClose} title="What our words mean" size={640} closeButtonProps={{ "aria-label": "Close" }}>
      <dl className={classes.words}>
        {entries.map(([, word, meaning]) => (
          <div key={word}>
            <dt>{word}</dt>
            <dd>{meaning}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
