import { api, ask } from "./client";
import type { Thumbnail, ThumbnailSubject } from "./types";

/** As many as the server takes at once. */
const most = 100;

/** What is asked for within so many milliseconds goes together. */
const together = 20;

const none: Thumbnail = { id: null, width: 0, height: 0, coming: false };

interface Waiting {
  subject: ThumbnailSubject;
  resolve: (thumbnail: Thumbnail) => void;
  reject: (problem: unknown) => void;
}

let waiting: Waiting[] = [];

/** The small picture of a document. A list asks for those of all that it shows in one request. */
export function findThumbnail(subject: ThumbnailSubject): Promise<Thumbnail> {
  return new Promise((resolve, reject) => {
    if (waiting.push({ subject, resolve, reject }) === 1) {
      setTimeout(send, together);
    }
  });
}

function send() {
  const all = waiting;
  waiting = [];
  for (let i = 0; i < all.length; i += most) {
    const part = all.slice(i, i + most);
    ask(api.POST("/api/thumbnails", { body: { subjects: part.map((w) => w.subject) } })).then(
      (found) => {
        for (const [at, one] of part.entries()) {
          one.resolve(found[at] ?? none);
        }
      },
      (problem) => {
        for (const one of part) {
          one.reject(problem);
        }
      },
    );
  }
}
