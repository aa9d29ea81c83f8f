/** What the server's answers and the sign-in over the page tell about who is signed in here. */
const ends = new Set<() => void>();
const starts = new Set<() => void>();
const answers = new Set<() => void>();
let signIns = 0;
let ended = false;
/** The person this page is of: windows of one browser share a session, and somebody else may have signed in in another. */
let person: () => string | undefined = () => undefined;

export function pageIsOf(whom: typeof person) {
  person = whom;
}

/** Name of the header that says it. */
export const pagePerson = "Page-Person";

/** Headers that say whose page asks: in the name of somebody else, who has signed in since, nothing is done. */
export const pageHeaders = (): Record<string, string> => {
  const whose = person();
  return whose ? { [pagePerson]: whose } : {};
};

function listen(to: Set<() => void>, listener: () => void) {
  to.add(listener);
  return () => {
    to.delete(listener);
  };
}

/** Calls back when the server says that nobody is signed in here any more. Returns what ends it. */
export const onSignedOut = (listener: () => void) => listen(ends, listener);

/** Calls back when somebody has signed in over the page. Returns what ends it. */
export const onSignedIn = (listener: () => void) => listen(starts, listener);

/** Calls back when, though the session had ended, something was answered: somebody may have signed in in another window. */
export const onAnswered = (listener: () => void) => listen(answers, listener);

/** The sign-ins over this page so far; taken when something is asked. */
export const signInsSoFar = () => signIns;

export function tellSignedIn() {
  signIns += 1;
  ended = false;
  for (const listener of starts) listener();
}

export function tellSignedOut() {
  ended = true;
  for (const listener of ends) listener();
}

/**
 * Reads from an answer whether the session has ended.
 * @param asked The sign-ins when it was asked: what was asked before the latest says nothing about the session since.
 */
export function hearSession({ status, url }: { status: number; url: string }, asked: number) {
  // A sign-in that fails says so by the same status, and who is here is told to anyone.
  if (asked !== signIns || url.endsWith("/api/session")) {
    return;
  }
  if (status === 401) {
    tellSignedOut();
  } else if (ended && status < 300) {
    for (const listener of answers) listener();
  }
}
