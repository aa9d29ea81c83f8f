import { hearSession, pageHeaders, signInsSoFar } from "../api/session";

/** Sends one file and tells how far it is, from 0 to 1. fetch does not tell; XMLHttpRequest does. */
export function upload<Answer>(
  to: string,
  file: File,
  name: string,
  tooLarge: string,
  onProgress: (sent: number) => void,
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const from = signInsSoFar();
    const body = new FormData();
    body.append("file", file, name);
    request.upload.onprogress = (event) => event.lengthComputable && onProgress(event.loaded / event.total);
    request.onerror = () => reject(new Error("The server cannot be reached. Try again."));
    request.onload = () => {
      hearSession({ status: request.status, url: to }, from);
      if (request.status < 300) {
        resolve(JSON.parse(request.responseText || "{}"));
      } else {
        reject(new Error(request.status === 413 ? tooLarge : (detailOf(request.responseText) ?? "It was not taken.")));
      }
    };
    request.open("POST", to);
    for (const [name, value] of Object.entries(pageHeaders())) request.setRequestHeader(name, value);
    request.send(body);
  });
}

/** What the server says is wrong; something on the way to it may answer with a page instead. */
function detailOf(answer: string): string | undefined {
  try {
    return JSON.parse(answer).detail;
  } catch {
    return undefined;
  }
}
