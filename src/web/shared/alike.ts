/** Whether two values say the same as JSON: members that are null or not there count alike, their order does not. */
export function alike(a: unknown, b: unknown): boolean {
  if (a === b || (a ?? null) === (b ?? null)) {
    return true;
  }
  if (Array.isArray(a) && Array.isArray(b)) {
    return a.length === b.length && a.every((item, at) => alike(item, b[at]));
  }
  if (!isObject(a) || !isObject(b)) {
    return false;
  }
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((key) => alike(a[key], b[key]));
}

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null && !Array.isArray(value);
