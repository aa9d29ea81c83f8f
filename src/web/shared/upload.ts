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
    const body = new FormData();
    body.append("file", file, name);
    request.upload.onprogress = (event) => event.lengthComputable && onProgress(event.loaded / event.total);
    request.onerror = () => reject(new Error("The server cannot be reached. Try again."));
    request.onload = () => {
      const answer = JSON.parse(request.responseText || "{}");
      if (request.status < 300) {
        resolve(answer);
      } else {
        reject(new Error(request.status === 413 ? tooLarge : (answer.detail ?? "It was not taken.")));
      }
    };
    request.open("POST", to);
    request.send(body);
  });
}
