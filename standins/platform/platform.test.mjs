import assert from "node:assert/strict";
import { after, before, beforeEach, test } from "node:test";
import { startPlatform } from "./platform.mjs";

let platform;
const token = "by the test";
const ask = (path, options = {}) =>
  fetch(`${platform.address}${path}`, { ...options, headers: { authorization: `Bearer ${token}`, "content-type": "application/json", ...options.headers } });
const put = (path, body) => ask(path, { method: "PUT", body: JSON.stringify(body) });
const template = { name: "Gazette", subject: "Hello {{first-name}}", html: '<p>{{first-name}}</p><a href="https://larkfell.example.org/shop">Shop</a>', text: "Hello" };
const send = (key, contacts, reference = "t") =>
  ask("/sends", { method: "POST", headers: { "idempotency-key": key }, body: JSON.stringify({ template: reference, contacts }) });

before(async () => {
  platform = await startPlatform({ token });
});
after(() => platform.stop());
beforeEach(() => put("/templates/t", template));

test("nobody comes in without the token", async () => {
  assert.equal((await fetch(`${platform.address}/lists`)).status, 401);
  assert.equal((await ask("/lists")).status, 200);
});

test("one key sends once, also where the answer was lost", async () => {
  platform.faults.plan({ path: "/sends", kind: "dropped-after" });
  await assert.rejects(send("a", ["contact-1", "contact-2"]));
  const again = await (await send("a", ["contact-1", "contact-2"])).json();
  assert.equal(again.accepted, 2);
  const got = platform.messages.filter((m) => m.send === "a");
  assert.deepEqual(got.map((m) => m.subject), ["Hello Ada", "Hello Bram"]);
  assert.match(got[0].html, /<p>Ada<\/p>/);
});

test("a template that is the same stays, and one that changed is a new revision", async () => {
  const first = await (await put("/templates/r", template)).json();
  assert.deepEqual(await (await put("/templates/r", template)).json(), first);
  assert.equal((await (await put("/templates/r", { ...template, text: "Other" })).json()).revision, first.revision + 1);
  await ask("/templates/r", { method: "DELETE" });
  assert.equal((await send("withdrawn", ["contact-1"], "r")).status, 404);
});

test("one press unsubscribes, by the headers of a message (RFC 8058), and looking does not", async () => {
  await send("b", ["contact-3"]);
  const [message] = platform.messages.filter((m) => m.send === "b");
  assert.equal(message.headers["List-Unsubscribe-Post"], "List-Unsubscribe=One-Click");
  const way = message.headers["List-Unsubscribe"].slice(1, -1);
  await fetch(way);
  assert.equal((await (await send("c", ["contact-3"])).json()).accepted, 1);
  const body = new URLSearchParams({ "List-Unsubscribe": "One-Click" });
  assert.equal((await fetch(way, { method: "POST", body: new URLSearchParams({ other: "1" }) })).status, 400);
  assert.equal((await fetch(way, { method: "POST", body })).status, 200);
  assert.equal((await fetch(`${way}x`, { method: "POST", body })).status, 404);
  const after = await (await send("d", ["contact-3"])).json();
  assert.deepEqual(after, { id: after.id, accepted: 0, skipped: [{ contact: "contact-3", reason: "unsubscribed" }] });
  assert.deepEqual((await (await ask("/unsubscribed?after=0")).json()).addresses, [message.to]);
});

test("events come when the clock says so, in order, and each once", async () => {
  await put("/templates/e", template);
  await send("e", Array.from({ length: 1200 }, (_, i) => `contact-${i + 10}`), "e");
  const sent = (await (await ask("/events?template=e")).json()).events;
  assert.ok(sent.length >= 490 && sent.every((e) => e.kind === "sent"));
  platform.clock.set({ now: new Date(platform.clock.now() + 3 * 86_400_000).toISOString() });
  const all = [];
  for (let after = "0", more = true; more; ) {
    const page = await (await ask(`/events?template=e&after=${after}`)).json();
    all.push(...page.events);
    ({ next: after, more } = page);
  }
  assert.equal(new Set(all.map((e) => e.id)).size, all.length);
  assert.deepEqual(new Set(all.map((e) => e.kind)), new Set(["sent", "bounced", "opened", "clicked", "unsubscribed"]));
  const { bounces } = await (await ask("/bounces?template=e")).json();
  assert.equal(bounces.length, all.filter((e) => e.kind === "bounced").length);
  assert.ok(all.every((e, i) => i === 0 || e.at >= all[i - 1].at));
});

test("what is asked for goes wrong as it is told to", async () => {
  platform.faults.plan({ path: "/lists", kind: "busy", seconds: 7 });
  const busy = await ask("/lists");
  assert.deepEqual([busy.status, busy.headers.get("retry-after")], [429, "7"]);
  platform.faults.plan({ path: "/lists", kind: "broken" });
  assert.equal((await ask("/lists")).status, 500);
  platform.faults.plan({ path: "/lists", kind: "nonsense" });
  assert.match(await (await ask("/lists")).text(), /Welcome/);
  assert.equal((await ask("/lists")).status, 200);
});
