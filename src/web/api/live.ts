import { HubConnectionBuilder, HubConnectionState, LogLevel } from "@microsoft/signalr";

const connection = new HubConnectionBuilder().withUrl("/live").withAutomaticReconnect().configureLogging(LogLevel.None).build();
const watched = new Map<string, () => void>();

/** Someone else who has the document open, in one window of theirs. */
export interface Present {
  connection: string;
  person: string;
  name: string;
  /** What they have chosen: a row's id, with the piece and field they write in. */
  place: string;
}

async function connect() {
  if (connection.state === HubConnectionState.Disconnected) {
    await connection.start();
  }
}

connection.onreconnected(() => {
  for (const [id, again] of watched) {
    void connection.invoke("Watch", id).then(again);
  }
});

/** Calls back when the document was edited by anyone, and after the connection was lost. Returns what ends it. */
export function watchDocument(id: string, onEdited: (revision: number) => void): () => void {
  const listen = (document: string, revision: number) => document === id && onEdited(revision);
  connection.on("edited", listen);
  watched.set(id, () => onEdited(Number.POSITIVE_INFINITY));
  void connect()
    .then(() => connection.invoke("Watch", id))
    .catch(() => undefined);
  return () => {
    connection.off("edited", listen);
    watched.delete(id);
    void connection.invoke("Leave", id).catch(() => undefined);
  };
}

/** Says where one is in a document, and calls back with everyone else who is there. */
export function meet(id: string, onPresent: (others: Present[]) => void) {
  const others = new Map<string, Present>();
  let place = "";
  const say = (asks: boolean) => {
    if (connection.state === HubConnectionState.Connected) {
      void connection.invoke("At", id, place, asks).catch(() => undefined);
    }
  };
  const here = (document: string, { asks, ...present }: Present & { asks: boolean }) => {
    if (document === id) {
      others.set(present.connection, present);
      onPresent([...others.values()]);
      if (asks) say(false);
    }
  };
  const gone = (document: string, left: string) => {
    if (document === id && others.delete(left)) {
      onPresent([...others.values()]);
    }
  };
  connection.on("here", here);
  connection.on("gone", gone);
  const lost = () => {
    others.clear();
    onPresent([]);
  };
  connection.onreconnecting(lost);
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
      connection.off("here", here);
      connection.off("gone", gone);
    },
  };
}

/** Calls back when anything was released. Returns what ends it. */
export function watchReleases(onReleased: () => void): () => void {
  connection.on("released", onReleased);
  void connect().catch(() => undefined);
  return () => connection.off("released", onReleased);
}
