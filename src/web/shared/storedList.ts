/** A list kept in the browser's store, so that a crash loses nothing. A full or forbidden store keeps none: what is in memory still waits. */
export function keepList(key: string, list: readonly unknown[]) {
  try {
    if (list.length === 0) {
      localStorage.removeItem(key);
    } else {
      localStorage.setItem(key, JSON.stringify(list));
    }
  } catch {
    // See above.
  }
}

/** Empty where none is kept. Throws where the store is forbidden or what is kept cannot be read. */
export const readList = <T>(key: string): T[] => JSON.parse(localStorage.getItem(key) ?? "[]");

/** As readList, for what may be lost without harm: empty where it would throw. */
export function readListOrNone<T>(key: string): T[] {
  try {
    return readList<T>(key);
  } catch {
    return [];
  }
}

/** Keeps one first in a list of at most so many, in place of the same one from before. */
export const keepFirst = <T>(key: string, one: T, same: (other: T) => boolean, most: number) =>
  keepList(key, [one, ...readListOrNone<T>(key).filter((other) => !same(other))].slice(0, most));
