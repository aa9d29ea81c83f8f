import type { HubConnection } from "@microsoft/signalr";
import { pageHeaders, pagePerson } from "./session";

let made: Promise<HubConnection> | undefined;
const watched = new Set<string>();
/** Called after a time in which nothing could be told: this window, or its server, had lost its connection. */
const missed = new Set<() => void>();

/** Someone else who has the document open, in one window of theirs. */
export interface Present {
  connection: string;
  person: string;
  name: string;
  /** What they have chosen: a row's id, with the piece and field they write in. */
  place: string;
}

const secondsBetween = [0, 1, 2, 5, 10];
const pause = (tried: number) => 1000 * (secondsBetween[tried] ?? 15);

/** However long the server is away, it is asked again: what is on the screen would be old otherwise, and nobody would know. */
const forever = { nextRetryDelayInMilliseconds: ({ previousRetryCount }: { previousRetryCount: number }) => pause(previousRetryCount) };

async function insist(start: () => Promise<void>, tried = 1): Promise<void> {
  try {
    await start();
  } catch {
    await new Promise((resolve) => setTimeout(resolve, pause(tried)));
    await insist(start, tried + 1);
  }
}

/** The connection, made and begun when the first asks for it: what is on the screen comes before what others do. */
function live(): Promise<HubConnection> {
  made ??= import("@microsoft/signalr").then(async ({ HubConnectionBuilder, LogLevel }) => {
    const connection = new HubConnectionBuilder()
      // Asked each time it begins: who is here may be another by then.
      .withUrl("/live", {
        headers: {
          get [pagePerson]() {
            return pageHeaders()[pagePerson] ?? "";
          },
        },
      })
      .withAutomaticReconnect(forever)
      .configureLogging(LogLevel.None)
      .build();
    const lookAgain = () => {
      for (const again of missed) again();
    };
    const watchAgain = () => Promise.allSettled([...watched].map((id) => connection.invoke("Watch", id))).then(lookAgain);
    connection.onreconnected(watchAgain);
    // The server has ended it, with the session it was begun in: whoever signs in again hears again.
    connection.onclose(() => insist(() => connection.start()).then(watchAgain));
    connection.on("missed", lookAgain);
    await insist(() => connection.start());
    return connection;
  });
  // A part of the interface that could not be fetched: the next who asks tries again.
  made.catch(() => {
    made = undefined;
  });
  return made;
}

/** Listens once the connection stands; what it returns ends that, before or after. */
function listen(name: string, callback: (...said: never[]) => void): () => void {
  let ended = false;
  void live().then(
    (connection) => ended || connection.on(name, callback as (...said: unknown[]) => void),
    () => undefined,
  );
  return () => {
    ended = true;
    void live().then(
      (connection) => connection.off(name, callback as (...said: unknown[]) => void),
      () => undefined,
    );
  };
}

const tell = (method: string, ...said: unknown[]) =>
  live()
    .then((connection) => connection.invoke(method, ...said))
    .catch(() => undefined);

/** Calls back when the document was edited by anyone, once the watch stands, and after the connection was lost. Returns what ends it. */
export function watchDocument(id: string, onEdited: (revision: number) => void): () => void {
  const again = () => onEdited(Number.POSITIVE_INFINITY);
  const stop = listen("edited", (document: string, revision: number) => document === id && onEdited(revision));
  watched.add(id);
  missed.add(again);
  // What was edited between the asking and now is not told of any more.
  void live()
    .then((connection) => connection.invoke("Watch", id))
    .then(again, () => undefined);
  return () => {
    stop();
    watched.delete(id);
    missed.delete(again);
    void tell("Leave", id);
  };
}

/** Says where one is in a document, and calls back with everyone else who is there. */
export function meet(id: string, onPresent: (others: Present[]) => void) {
  const others = new Map<string, Present>();
  let place = "";
  const say = (asks: boolean) => void tell("At", id, place, asks);
  const stops = [
    listen("here", (document: string, { asks, ...present }: Present & { asks: boolean }) => {
      if (document === id) {
        others.set(present.connection, present);
        onPresent([...others.values()]);
        if (asks) say(false);
      }
    }),
    listen("gone", (document: string, left: string) => {
      if (document === id && others.delete(left)) {
        onPresent([...others.values()]);
      }
    }),
  ];
  // Whoever was there may have gone meanwhile: they are asked anew.
  const anew = () => {
    others.clear();
    onPresent([]);
    setTimeout(() => say(true), 500);
  };
  missed.add(anew);
  // The watch has to stand before anyone can be met.
  const asking = setTimeout(() => say(true), 600);
  return {
    at(next: string) {
      if (next !== place) {
        place = next;
        say(false);
      }
    },
    stop() {
      clearTimeout(asking);
      missed.delete(anew);
      for (const stop of stops) stop();
    },
  };
}

/** Calls back when somebody asked, decided or commented on a watched email. Returns what ends it. */
export const watchReviews = (id: string, onReviewed: () => void) =>
  listen("reviewed", (document: string) => document === id && onReviewed());

/** Calls back when anything was released. Returns what ends it. */
export function watchReleases(onReleased: () => void): () => void {
  const stop = listen("released", onReleased);
  missed.add(onReleased);
  return () => {
    stop();
    missed.delete(onReleased);
  };
}

/** Calls back when what waits for somebody may be another. Returns what ends it. */
export function watchWaits(onWaits: () => void): () => void {
  const stop = listen("waits", onWaits);
  missed.add(onWaits);
  return () => {
    stop();
    missed.delete(onWaits);
  };
}
