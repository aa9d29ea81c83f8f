import { useState } from "react";

const at = (key: string) => `golden-rule-comment-${key}`;

/** What is typed and not sent yet, kept in this browser: it is there again after a crash. */
export function useKeptText(key: string): [string, (text: string) => void] {
  const [text, setText] = useState(() => localStorage.getItem(at(key)) ?? "");
  return [
    text,
    (next) => {
      setText(next);
      if (next) {
        localStorage.setItem(at(key), next);
      } else {
        localStorage.removeItem(at(key));
      }
    },
  ];
}
