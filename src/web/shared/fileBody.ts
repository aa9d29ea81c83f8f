/** A file as the body of a request, for openapi-fetch. */
export function fileBody(file: File) {
  const body = new FormData();
  body.append("file", file);
  return { body: body as never, bodySerializer: (b: unknown) => b as FormData };
}
