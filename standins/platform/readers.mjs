import { createHash } from "node:crypto";

const minute = 60_000;
const agents = ["Mozilla/5.0 (Windows NT 10.0)", "Mozilla/5.0 (iPhone; CPU iPhone OS 18_0)", "Mozilla/5.0 (Macintosh)", "Mozilla/5.0 (Linux; Android 15)"];

/** What one reader will do with one message: made up, and the same each time for the same reader and template. */
export function eventsOf({ message, template, person, html, at }) {
  const dice = diceOf(`${template}/${person}`);
  const made = [];
  const add = (kind, after, more = {}) =>
    made.push({ id: `${message}/${kind}/${made.length}`, kind, at: new Date(at + after).toISOString(), template, message, sentAt: new Date(at).toISOString(), ...more });
  if (dice() < 0.01) {
    add("bounced", 30_000);
    return made;
  }
  add("sent", 0);
  const links = [...new Set([...html.matchAll(/<a\s[^>]*?href="([^"]+)"/g)].map((m) => decoded(m[1])))].filter((l) => /^https?:/.test(l));
  if (dice() < 0.06) {
    // A program at the mailbox looks at every link before the reader does.
    links.forEach((link, i) => add("clicked", 2_000 + i * 40, { link, agent: "mail-scan/2.1" }));
  }
  if (dice() < 0.46) {
    const opened = 5 * minute + dice() ** 3 * 48 * 60 * minute;
    const agent = agents[Math.floor(dice() * agents.length)];
    add("opened", opened, { agent });
    if (dice() < 0.35 && links.length > 0) {
      // What stands further up is clicked more.
      add("clicked", opened + minute, { link: links[Math.floor(dice() ** 2 * links.length)], agent });
    }
    if (dice() < 0.012) {
      add("unsubscribed", opened + 2 * minute);
    }
  }
  return made;
}

function diceOf(seed) {
  let state = createHash("sha256").update(seed).digest().readUInt32LE(0);
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const decoded = (text) => text.replaceAll("&amp;", "&").replaceAll("&#39;", "'").replaceAll("&quot;", '"').replaceAll("&lt;", "<").replaceAll("&gt;", ">");
