import type { Wait } from "../../api/types";

/** Each kind of thing that waits: what it is called among notices, and the one act that answers it. */
export const acts: Record<Wait["kind"], { label: string; name: string; to: (wait: Wait) => string }> = {
  approve: { label: "Somebody asks for my approval", name: "Look and decide", to: (w) => `/emails/${w.id}/review` },
  "approve-again": {
    label: "What I approved has changed by itself",
    name: "See what changed",
    to: (w) => `/emails/${w.id}/review?against=approval`,
  },
  "send-paused": {
    label: "A fault has paused a send that I asked for",
    name: "Look at the send",
    to: (w) => `/emails/${w.id}/hand-offs`,
  },
  change: { label: "Changes of my email are asked for", name: "Go on writing", to: (w) => `/emails/${w.id}` },
  mention: {
    label: "Somebody mentions me in a comment",
    name: "Go to the comment",
    to: (w) => `/emails/${w.id}/review?comment=${w.comment}`,
  },
  comment: { label: "A comment on my email", name: "Go to the comment", to: (w) => `/emails/${w.id}/review?comment=${w.comment}` },
  "take-update": { label: "My email can take a newer release", name: "See and take it", to: (w) => `/emails/${w.id}` },
  fill: { label: "My email goes out soon and has fields to fill", name: "Next field", to: (w) => `/emails/${w.id}` },
  "snippet-expires": { label: "A snippet that I may change ends soon", name: "Open the snippet", to: (w) => `/snippets/${w.id}` },
  "release-not-made": {
    label: "A release that I planned was not made",
    name: "Look at the draft",
    to: (w) => `/${w.document === "row" ? "rows" : "templates"}/${w.id}`,
  },
  "same-browser": {
    label: "An email was approved in a browser that a writer of it uses",
    name: "Look at the review",
    to: (w) => `/emails/${w.id}/review`,
  },
  approved: { label: "My email is approved", name: "Look at the review", to: (w) => `/emails/${w.id}/review` },
};
