const listeners = new Set<() => void>();

/** Calls back when the server says that nobody is signed in here any more. Returns what ends it. */
export function onSignedOut(listener: () => void): () => void {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

export function tellSignedOut() {
  for (const listener of listeners) listener();
}
