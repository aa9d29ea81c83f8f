import { expect, test } from "vitest";
import { browserInWords } from "./browserInWords";

// As browsers call themselves in public documentation; from memory.
test.each([
  ["Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:140.0) Gecko/20100101 Firefox/140.0", "Firefox on Windows"],
  [
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36 Edg/140.0",
    "Edge on Windows",
  ],
  [
    "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Safari/605.1.15",
    "Safari on macOS",
  ],
  ["Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) HeadlessChrome/140.0 Safari/537.36", "Chrome on Linux"],
  ["curl/8.0", "curl/8.0"],
  ["", "A program that says no name"],
])("%s is %s", (agent, words) => expect(browserInWords(agent)).toBe(words));
