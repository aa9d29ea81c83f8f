// A simulated mailbox: takes every mail that is handed in by SMTP with STARTTLS and a sign-in, keeps the newest, and tells of them
// over HTTP on loopback. Its certificate is the self-signed one that smtp-server brings.
import { createServer } from "node:http";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";

const most = 500;
const mostBytes = 30 * 1024 * 1024;

/** Starts both servers; the ports are where they listen. */
export async function startMailbox({ smtpPort = 0, httpPort = 0, user = "golden-rule", password }) {
  const mails = [];
  let counted = 0;
  const smtp = new SMTPServer({
    banner: "a simulated mailbox",
    authMethods: ["PLAIN", "LOGIN"],
    size: mostBytes,
    disableReverseLookup: true,
    onAuth: (auth, _session, done) =>
      auth.username === user && auth.password === password
        ? done(null, { user })
        : done(Object.assign(new Error("The name or the password is not right."), { responseCode: 535 })),
    // No mail is taken in before the connection is encrypted.
    onMailFrom: (_address, session, done) =>
      session.secure ? done() : done(Object.assign(new Error("Begin TLS first."), { responseCode: 530 })),
    onData(stream, session, done) {
      const parts = [];
      stream.on("data", (part) => parts.push(part));
      stream.on("end", async () => {
        if (stream.sizeExceeded) {
          done(Object.assign(new Error("The message is too large."), { responseCode: 552 }));
          return;
        }
        const source = Buffer.concat(parts);
        mails.unshift({ ...(await read(source)), id: ++counted, at: new Date().toISOString(), to: session.envelope.rcptTo.map((r) => r.address), source });
        mails.length = Math.min(mails.length, most);
        done();
      });
    },
  });
  // A client that goes away in the middle is no reason to end.
  smtp.on("error", () => undefined);
  const http = createServer((request, answer) => {
    const [, first, id, part] = new URL(request.url, "http://mailbox").pathname.split("/");
    const found = mails.find((m) => m.id === Number(id));
    if (first !== "messages" || (id && !found)) {
      answer.writeHead(404).end();
    } else if (request.method === "DELETE" && !id) {
      mails.length = 0;
      answer.writeHead(204).end();
    } else if (request.method !== "GET") {
      answer.writeHead(405).end();
    } else if (part === "source") {
      answer.writeHead(200, { "content-type": "message/rfc822" }).end(found.source);
    } else {
      const { source, ...whole } = found ?? {};
      json(answer, id ? whole : mails.map(({ id, at, from, to, subject, preview }) => ({ id, at, from, to, subject, preview })));
    }
  });
  await listen(smtp, smtpPort);
  await listen(http, httpPort);
  return {
    smtpPort: smtp.server.address().port,
    httpPort: http.address().port,
    stop: () => Promise.all([new Promise((done) => smtp.close(done)), new Promise((done) => http.close(done))]),
  };
}

async function read(source) {
  const mail = await simpleParser(source);
  const text = mail.text ?? "";
  return {
    from: mail.from?.text ?? "",
    subject: mail.subject ?? "",
    preview: text.replace(/\s+/g, " ").slice(0, 140),
    text,
    html: mail.html || null,
    headers: mail.headerLines.map(({ line }) => line),
    attachments: mail.attachments.map((a) => ({ name: a.filename ?? "", type: a.contentType, bytes: a.size })),
  };
}

const json = (answer, what) => answer.writeHead(200, { "content-type": "application/json" }).end(JSON.stringify(what));

const listen = (server, port) =>
  new Promise((done, failed) => {
    server.on("error", failed);
    server.listen(port, "127.0.0.1", done);
  });
