import { Kbd, Modal } from "@mantine/core";
import { useState } from "react";
import { keyName } from "../../shared/keys";
import { lazily } from "../../shared/lazily";
import classes from "./KeysDialog.module.css";

const keys: [string[], string][] = [
  [["↑", "↓"], "Choose a row in the running order"],
  [["Enter"], "Go to its first field"],
  [["Alt", "↑"], "Move it up"],
  [["Alt", "↓"], "Move it down"],
  [["Ctrl", "D"], "Duplicate it"],
  [["Delete"], "Remove it"],
  [["/"], "Add a row here"],
  [["Shift", "↓"], "Choose several rows"],
  [["Ctrl", "Z"], "Undo"],
  [["Ctrl", "Shift", "Z"], "Redo"],
  [["R"], "Look as the next sample reader"],
  [["F8"], "Go to the next field to fill"],
  [["Ctrl", "B"], "Bold, in a text"],
  [["Ctrl", "I"], "Italic, in a text"],
  [["Ctrl", "H"], "Find and replace, in an email"],
  [["Ctrl", "K"], "Go to anything by its name"],
  [["Esc"], "Back to the running order"],
  [["?"], "This list"],
];

const GlossaryDialog = lazily(() => import("../session/GlossaryDialog"));

export default function KeysDialog({ onClose }: { onClose: () => void }) {
  const [glossary, setGlossary] = useState(false);
  return (
    <Modal opened onClose={onClose} title="Keys" closeButtonProps={{ "aria-label": "Close" }}>
      <dl className={classes.keys}>
        {keys.map(([press, does]) => (
          <div key={does}>
            <dt>
              {press.map((key) => (
                <Kbd key={key}>{keyName(key)}</Kbd>
              ))}
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <button type="button" className="plain underlined" onClick={() => setGlossary(true)}>
        What our words mean
      </button>
      {glossary && <GlossaryDialog onClose={() => setGlossary(false)} />}
    </Modal>
  );
}
