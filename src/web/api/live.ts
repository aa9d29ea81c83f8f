import { HubConnectionBuilder, HubConnectionState, LogLevel } from "@microsoft/signalr";

const connection = new HubConnectionBuilder().withUrl("/live").withAutomaticReconnect().configureLogging(LogLevel.None).build();
const watched = new Map<string, number>();

async function connect() {
  if (connection.state === HubConnectionState.Disconnected) {
    await connection.start();
  }
}

connection.onreconnected(() => {
  for (const id of watched.keys()) {
    void connection.invoke("Watch", id);
  }
});

/** Calls back when the document was edited by anyone. Returns what ends it. */
export function watchDocument(id: string, onEdited: (revision: number) => void): () => void {
  const listen = (document: string, revision: number) => document === id && onEdited(revision);
  connection.on("edited", listen);
  watched.set(id, (watched.get(id) ?? 0) + 1);
  void connect()
    .then(() => connection.invoke("Watch", id))
    .catch(() => undefined);
  return () => {
    connection.off("edited", listen);
    watched.delete(id);
    void connection.invoke("Leave", id).catch(() => undefined);
  };
}

/** Calls back when anything was released. Returns what ends it. */
export function watchReleases(onReleased: () => void): () => void {
  connection.on("released", onReleased);
  void connect().catch(() => undefined);
  return () => connection.off("released", onReleased);
}
