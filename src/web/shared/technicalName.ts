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

/** The same, made unlike those that are taken by a number after it. */
export const freeKeyOf = (name: string, usual: string, taken: string[]) => {
  const wanted = keyOf(name) || usual;
  let key = wanted;
  for (let more = 2; taken.includes(key); more++) {
    key = `${wanted.slice(0, 56)}-${more}`;
  }
  return key;
};
