// The dialogue by RFC 5321 (mail), RFC 3207 (STARTTLS) and RFC 4954 (AUTH), said line by line, not by a client library.
import assert from "node:assert/strict";
import { once } from "node:events";
import { connect } from "node:net";
import { after, before, test } from "node:test";
import { connect as secure } from "node:tls";
import { startMailbox } from "./mailbox.mjs";

let mailbox;
before(async () => {
  mailbox = await startMailbox({ password: "by the test" });
});
after(() => mailbox.stop());

class Dialogue {
  static async open() {
    const socket = connect(mailbox.smtpPort, "127.0.0.1");
    await once(socket, "connect");
    const dialogue = new Dialogue(socket);
    assert.match(await dialogue.hear(), /^220 /);
    return dialogue;
  }

  constructor(socket) {
    this.use(socket);
  }

  use(socket) {
    this.socket = socket;
    this.lines = [];
    this.waiting = undefined;
    let rest = "";
    socket.on("data", (part) => {
      const lines = (rest + part).split("\r\n");
      rest = lines.pop();
      this.lines.push(...lines);
      this.waiting?.();
    });
  }

  /** One answer, all its lines: the last has a space behind the code (RFC 5321, 4.2.1). */
  async hear() {
    for (;;) {
      const end = this.lines.findIndex((line) => /^\d{3} /.test(line));
      if (end >= 0) return this.lines.splice(0, end + 1).join("\n");
      await new Promise((heard) => {
        this.waiting = heard;
      });
    }
  }

  say(line) {
    this.socket.write(`${line}\r\n`);
    return this.hear();
  }

  async beginTls() {
    assert.match(await this.say("STARTTLS"), /^220 /);
    const plain = this.socket;
    plain.removeAllListeners("data");
    const encrypted = secure({ socket: plain, rejectUnauthorized: false });
    await once(encrypted, "secureConnect");
    this.use(encrypted);
  }

  end() {
    this.socket.destroy();
  }
}

const plain = (user, password) => Buffer.from(`\0${user}\0${password}`).toString("base64");

async function signedIn() {
  const dialogue = await Dialogue.open();
  await dialogue.say("EHLO test.example.org");
  await dialogue.beginTls();
  // What was said before is forgotten (RFC 3207, 4.2).
  assert.match(await dialogue.say("EHLO test.example.org"), /AUTH PLAIN LOGIN/);
  assert.match(await dialogue.say(`AUTH PLAIN ${plain("golden-rule", "by the test")}`), /^235 /);
  return dialogue;
}

test("nothing is taken in before TLS and a sign-in", async () => {
  const dialogue = await Dialogue.open();
  assert.match(await dialogue.say("EHLO test.example.org"), /STARTTLS/);
  assert.match(await dialogue.say("MAIL FROM:<a@example.org>"), /^530 /);
  await dialogue.beginTls();
  await dialogue.say("EHLO test.example.org");
  assert.match(await dialogue.say(`AUTH PLAIN ${plain("golden-rule", "another")}`), /^535 /);
  assert.match(await dialogue.say("MAIL FROM:<a@example.org>"), /^530 /);
  dialogue.end();
});

test("a message is taken in, with dots at the beginning of lines, and told over HTTP", async () => {
  const dialogue = await signedIn();
  assert.match(await dialogue.say("MAIL FROM:<a@example.org>"), /^250 /);
  assert.match(await dialogue.say("RCPT TO:<b@example.org>"), /^250 /);
  assert.match(await dialogue.say("RCPT TO:<c@example.org>"), /^250 /);
  assert.match(await dialogue.say("DATA"), /^354 /);
  // RFC 5321, 4.5.2: a dot at the beginning of a line is doubled on its way.
  const lines = ["From: A <a@example.org>", "To: b@example.org", "Subject: =?utf-8?B?VMOkZ2xpY2g=?=", "", "..one dot", "end"];
  assert.match(await dialogue.say([...lines, "."].join("\r\n")), /^250 /);
  assert.match(await dialogue.say("QUIT"), /^221 /);
  dialogue.end();
  const [first] = await (await fetch(`http://127.0.0.1:${mailbox.httpPort}/messages`)).json();
  assert.equal(first.subject, "Täglich");
  assert.deepEqual(first.to, ["b@example.org", "c@example.org"]);
  const whole = await (await fetch(`http://127.0.0.1:${mailbox.httpPort}/messages/${first.id}`)).json();
  assert.equal(whole.text.trim(), ".one dot\nend");
  const source = await (await fetch(`http://127.0.0.1:${mailbox.httpPort}/messages/${first.id}/source`)).text();
  assert.ok(source.includes("\r\n.one dot\r\n"));
});

test("commands out of turn, and unknown ones, are refused and the dialogue goes on", async () => {
  const dialogue = await signedIn();
  assert.match(await dialogue.say("RCPT TO:<b@example.org>"), /^503 /);
  assert.match(await dialogue.say("DATA"), /^503 /);
  assert.match(await dialogue.say("MAIL FROM:nobody"), /^501 /);
  assert.match(await dialogue.say("WHATEVER"), /^500 /);
  assert.match(await dialogue.say("NOOP"), /^250 /);
  assert.match(await dialogue.say("RSET"), /^250 /);
  dialogue.end();
});
