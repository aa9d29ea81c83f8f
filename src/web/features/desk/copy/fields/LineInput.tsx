import { useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { lazily } from "../../../../shared/lazily";
import { hasNodes, type InlineNode, onlyNode, writeNode } from "../../../../shared/nodes";
import { NodeMenu } from "../../../nodes/NodeMenu";
import { useNodeOffers } from "../../../nodes/nodeOffers";
import classes from "./fields.module.css";
import type { EditedLine } from "./LineEditor";
import { notesOf } from "./notesOf";

const LineEditor = lazily(() => import("./LineEditor"), <div className={classes.line} />);

interface Props {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  disabled?: boolean;
  type?: "text" | "url";
  placeholder?: string;
  /** Counts up when the focus is asked for; 0: it is not. */
  asked?: number;
  caret?: number;
  broken?: boolean;
  /** A figure at the end of the label's line. */
  note?: string;
  /** What a brand variable or snippet that stands here comes to. */
  comesTo?: string;
  /** BCP 47 tag that the spelling goes by. */
  lang?: string;
  /** Whether snippets and fields may stand in it. */
  nodes?: boolean;
}

/** One ruled line to write on. Grows downwards where the words need more. */
export function LineInput({
  id,
  label,
  value,
  onChange,
  disabled,
  type = "text",
  placeholder,
  asked = 0,
  caret,
  broken,
  note,
  comesTo,
  lang,
  nodes = false,
}: Props) {
  const { find, can } = useNodeOffers();
  const takes = nodes && can && !disabled;
  const refers = comesTo !== undefined && /^\{.*\}$/.test(value);
  const only = type === "url" ? onlyNode(value) : undefined;
  const input = useRef<HTMLTextAreaElement>(null);
  const line = useRef<EditedLine>(undefined);
  const [inserting, setInserting] = useState(false);
  // Once it holds a snippet or field an editor takes over from the line, and stays when they go: whoever types has the focus in it.
  const [edited, setEdited] = useState(false);
  /** Where the caret stands when the editor takes over from the line that was typed in. */
  const [caretTaken, setCaretTaken] = useState<number>();
  if (hasNodes(value) && !only && !edited) {
    setEdited(true);
    // Somebody else may have put it in while this line is written in: what is typed next must find the editor.
    if (caretTaken === undefined && input.current && input.current === document.activeElement) {
      setCaretTaken(value.length);
    }
  }
  /** The newest request for the focus that the line followed: the editor that takes over follows none again. */
  const followed = useRef(0);
  useEffect(() => {
    if (asked > 0 && input.current) {
      followed.current = asked;
      input.current.focus();
      const at = caret ?? input.current.value.length;
      input.current.setSelectionRange(at, at);
    }
  }, [asked, caret]);
  const insert = () => {
    // It takes over from the line that is typed in: what is typed next must find it there.
    void LineEditor.fetch();
    setInserting(true);
  };
  const put = (node: InlineNode) => {
    setInserting(false);
    if (type === "url" && node.kind === "snippet") {
      onChange(writeNode(node));
      return;
    }
    if (line.current) {
      line.current.put(node);
      return;
    }
    if (LineEditor.isHere()) {
      place(node, input.current?.selectionStart ?? value.length, input.current?.selectionEnd);
      return;
    }
    // On a slow line it is not here yet. Until it is, what is typed goes on behind where the node will stand.
    const field = input.current;
    const at = field?.selectionStart ?? value.length;
    field?.focus();
    if (field && field.selectionEnd > at) {
      field.setRangeText("", at, field.selectionEnd, "start");
      onChange(field.value);
    }
    void LineEditor.fetch().then(() => flushSync(() => latest.current.place(node, at)));
  };
  const place = (node: InlineNode, at: number, end = at) => {
    const caret = Math.max(at, input.current?.selectionStart ?? at);
    onChange(value.slice(0, at) + writeNode(node) + value.slice(end));
    setCaretTaken(caret + 1);
  };
  const latest = useRef({ place });
  latest.current = { place };
  const leave = () => {
    setInserting(false);
    input.current?.focus();
    line.current?.focus();
  };
  return (
    <div className={classes.field}>
      <div className={classes.label}>
        <label htmlFor={edited ? undefined : id} id={`${id}-label`}>
          {label}
        </label>
        {takes && !only && (
          <NodeMenu sort={type === "url" ? "link" : "words"} opened={inserting} onChoose={put} onClose={leave}>
            <button
              type="button"
              className={`plain underlined ${classes.insert}`}
              aria-label="Insert a snippet or field"
              aria-expanded={inserting}
              title={type === "url" ? "Use a link from the snippets" : "Put a snippet or a field of the reader here"}
              onMouseDown={(e) => e.preventDefault()}
              onClick={insert}
            >
              Insert{type === "text" && <span aria-hidden="true"> /</span>}
            </button>
          </NodeMenu>
        )}
        <span className={classes.figure} data-broken={broken}>
          {note}
        </span>
      </div>
      {only ? (
        <p className={classes.whole}>
          <span data-node>{find(only)?.name ?? only.key}</span>{" "}
          <button type="button" className="plain underlined" disabled={disabled} onClick={() => onChange("")}>
            Remove
          </button>
          <span className={classes.small}>{find(only)?.value}</span>
        </p>
      ) : edited ? (
        <LineEditor
          id={id}
          value={value}
          onChange={onChange}
          onAsk={insert}
          onReady={(made) => {
            line.current = made;
          }}
          lang={type === "url" ? undefined : lang}
          asked={asked > followed.current ? asked : 0}
          caretTaken={caretTaken}
          placeholder={placeholder}
          broken={broken}
        />
      ) : (
        <textarea
          id={id}
          ref={input}
          rows={1}
          className={classes.line}
          data-broken={broken}
          value={value}
          disabled={disabled}
          inputMode={type === "url" ? "url" : undefined}
          spellCheck={type !== "url"}
          lang={type === "url" ? undefined : lang}
          placeholder={placeholder}
          onChange={(e) => onChange(e.currentTarget.value.replace(/[\r\n]+/g, " "))}
          onKeyDown={(e) => {
            const at = e.currentTarget.selectionStart;
            if (takes && type === "text" && e.key === "/" && (at === 0 || /\s/.test(value[at - 1] ?? ""))) {
              e.preventDefault();
              insert();
            }
          }}
          aria-invalid={broken || undefined}
          aria-describedby={refers ? `${id}-comes-to ${notesOf(id)}` : notesOf(id)}
        />
      )}
      {refers && (
        <p id={`${id}-comes-to`} className={classes.small}>
          A brand variable, now {comesTo || "empty"}
        </p>
      )}
    </div>
  );
}
