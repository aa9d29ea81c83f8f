/** The technical name that a name suggests: small letters, digits and hyphens, a letter first. The server has the last word. */
export const keyOf = (name: string) =>
  name
    .normalize("NFD")
    .replace(/[\u0300-\u036f]/g, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^[^a-z]+/, "")
    .slice(0, 60)
    .replace(/-+$/, "");
