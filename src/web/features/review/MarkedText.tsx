import type { MarkedWords } from "../../api/types";
import classes from "./ReviewRoom.module.css";

const around = 40;

/** Words before and after, marked; of what stayed, where the whole is not asked for, only what stands beside a change. */
export function MarkedText({ marks, whole }: { marks: MarkedWords[]; whole?: boolean }) {
  return (
    <>
      {marks.map((part, at) => {
        const key = at;
        if (part.mark === "removed") {
          return <del key={key}>{part.text}</del>;
        }
        return part.mark === "added" ? (
          <ins key={key} className={classes.added}>
            {part.text}
          </ins>
        ) : (
          <span key={key}>{whole ? part.text : shortened(part.text, at === 0, at === marks.length - 1)}</span>
        );
      })}
    </>
  );
}

function shortened(text: string, first: boolean, last: boolean): string {
  if (text.length <= around * 2) {
    return text;
  }
  const [head, tail] = [text.slice(0, around), text.slice(-around)];
  if (first) {
    return `… ${tail}`;
  }
  return last ? `${head} …` : `${head} … ${tail}`;
}
