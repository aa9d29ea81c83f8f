import { execFileSync } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { createServer, type IncomingMessage } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Browser, expect, type Page } from "@playwright/test";
import { simpleParser } from "mailparser";
import { Webhook } from "standardwebhooks";
import { startMailbox } from "../../standins/mailbox/mailbox.mjs";
import { startPlatform } from "../../standins/platform/platform.mjs";
import { freePort, startServer, stopServer } from "./server";
import { demoEmail, expectNoViolationsInBoth, signIn, test } from "./support";

const autumn = demoEmail("autumn-shelf");
const day = 86_400_000;

const privatePostgres = (act: "start" | "restart" | "stop", folder: string) =>
  execFileSync(join(import.meta.dirname, "private-postgres.sh"), [act, folder], { encoding: "utf8" }).trim();

/** A server of its own whose sending clock runs fast, with the simulated platform and a mailbox. */
async function begin(name: string, speed: number) {
  // One that may be restarted is nobody else's.
  const folder = mkdtempSync(join(tmpdir(), "golden-rule-sending."));
  const connection = privatePostgres("start", folder);
  const platform = await startPlatform({ token: "by-the-test" });
  const mailbox = await startMailbox({ password: name });
  const port = await freePort();
  const settings = {
    Sending__ClockSpeed: `${speed}`,
    Sending__ClockFrom: new Date().toISOString(),
    Outbound__Allow__0: "127.0.0.1/32",
    Mail__Host: "127.0.0.1",
    Mail__Port: `${mailbox.smtpPort}`,
    Mail__User: "golden-rule",
    Mail__Password: name,
    Mail__From: "Golden Rule <golden-rule@larkfell.example.org>",
    Mail__CheckCertificate: "false",
  };
  platform.clock.set({ speed });
  let server = await startServer(port, connection, settings);
  return {
    url: `http://127.0.0.1:${port}`,
    platform,
    mailbox,
    /** The server is killed, and once it is up again PostgreSQL is restarted under it. */
    async kill() {
      await stopServer(server, "SIGKILL");
      server = await startServer(port, connection, settings);
      privatePostgres("restart", folder);
    },
    async end() {
      await stopServer(server, "SIGKILL");
      await Promise.all([platform.stop(), mailbox.stop()]);
      privatePostgres("stop", folder);
    },
  };
}

type Own = Awaited<ReturnType<typeof begin>>;

async function withOwn(name: string, speed: number, run: (own: Own) => Promise<void>) {
  const own = await begin(name, speed);
  try {
    await run(own);
  } finally {
    await own.end();
  }
}

async function addPlatform(page: Page, own: Own) {
  await page.goto("/sending/destinations");
  await page.getByRole("button", { name: "Add a destination" }).click();
  const dialog = page.getByRole("dialog", { name: "Add a destination" });
  await dialog.getByLabel("Address").fill(own.platform.address);
  await dialog.getByRole("textbox", { name: "Access token" }).fill("by-the-test");
  await dialog.getByLabel("Pictures").selectOption("uploaded");
  await dialog.getByRole("button", { name: "Add it" }).click();
  await expect(dialog).toHaveCount(0);
}

const lastHandOff = async (page: Page, email: string) =>
  (await (await page.request.get(`/api/emails/${email}/hand-offs`)).json()).all[0].id as string;

const where = (page: Page) => page.getByRole("region", { name: "Where it went" });
const came = (page: Page) => page.getByRole("region", { name: "What readers did" });

test("a hand-off is pushed, sent to 2,000 in batches through a crash, each once, and what came back lies over it", async ({ browser }) => {
  await withOwn("sending_batches", 900, async (own) => {
    const lead = await signIn(browser, "ruth", "/", own.url);

    await test.step("a platform is added, tried, and its token never shown again", async () => {
      await addPlatform(lead, own);
      await lead.getByRole("button", { name: "Try it Sending platform" }).click();
      await expect(lead.getByText("✓ The simulated platform answers, with 2,400 contacts.")).toBeVisible();
      await expectNoViolationsInBoth(lead);
      expect(await (await lead.request.get("/api/destinations")).text()).not.toContain("by-the-test");
      own.platform.faults.plan({ path: "/account", kind: "nonsense" });
      await lead.getByRole("button", { name: "Try it Sending platform" }).click();
      await expect(lead.getByText("▲ The platform answered something that cannot be read.")).toBeVisible();
    });

    await lead.goto(`/emails/${autumn}/hand-offs`);
    const handOff = await lastHandOff(lead, autumn);
    const template = handOff.replaceAll("-", "");

    await test.step("pushed with the answer lost it is there once, and is brought up to date", async () => {
      own.platform.faults.plan({ path: "/templates", method: "PUT", kind: "dropped-after" });
      await where(lead).getByRole("button", { name: "Push to Sending platform" }).click();
      await expect(where(lead).getByText("cannot be reached, or the connection broke off")).toBeVisible();
      await expect(where(lead).getByText(/^taken .*, id 8841$/)).toBeVisible({ timeout: 30_000 });
      await where(lead).getByRole("button", { name: "Refresh Sending platform" }).click();
      await expect(where(lead).getByText(/^taken .*, id 8841$/)).toBeVisible();
      const there = await fetch(`${own.platform.address}/templates/${template}`, { headers: { authorization: "Bearer by-the-test" } });
      expect(await there.json()).toEqual({ id: "8841", revision: 1, withdrawn: false });
    });

    await test.step("the plan is drawn before anything is sent", async () => {
      await lead.getByRole("button", { name: "Send in batches" }).click();
      const dialog = lead.getByRole("dialog", { name: "Send in batches" });
      await dialog.getByLabel("By", { exact: true }).selectOption({ label: "Sending platform" });
      await dialog.getByLabel("List", { exact: true }).selectOption({ label: "Shop customers, 2,000 contacts" });
      await expect(dialog.getByText("2,000 readers in 10 batches")).toBeVisible();
      await expectNoViolationsInBoth(lead, ["iframe"]);
      await dialog.getByRole("button", { name: "Send to 2,000 readers" }).click();
      await expect(dialog).toHaveCount(0);
    });

    const sent = () => own.platform.messages.filter((m) => m.template === template);
    await test.step("the server is killed in the middle, and everyone gets it once", async () => {
      const part = lead.getByRole("region", { name: "Sent to Shop customers" });
      await expect(part.getByText(/^now .* sent, the last begins/)).toBeVisible();
      await expect.poll(() => sent().length, { timeout: 60_000 }).toBeGreaterThanOrEqual(400);
      own.platform.faults.plan({ path: "/sends", kind: "dropped-after" });
      own.platform.faults.plan({ path: "/sends", kind: "busy", seconds: 1 });
      await own.kill();
      // In the middle of it someone looks again, pauses, and goes on.
      await lead.goto(`/emails/${autumn}/hand-offs`);
      await part.getByRole("button", { name: "Pause" }).click();
      await expect(part.getByText("Paused.")).toBeVisible();
      await part.getByRole("button", { name: "Resume" }).click();
      await expect(part.getByText("Done.")).toBeVisible({ timeout: 120_000 });
      const to = sent().map((m) => m.to);
      expect(new Set(to).size).toBe(to.length);
      const left = await lead.request.get(`/api/hand-offs/${handOff}/sending`).then((r) => r.json());
      const batches = left.sends[0].batches as { sent: number; leftOut: number; refused: number; unknown: number }[];
      const sum = (of: keyof (typeof batches)[0]) => batches.reduce((all, b) => all + b[of], 0);
      // Refused are those that bounced since, and each is listed.
      expect([sum("sent") + sum("refused"), sum("unknown")]).toEqual([to.length, 0]);
      // Those who unsubscribed while it went out are left out, and nobody else.
      expect(sum("leftOut")).toBe(2_000 - to.length);
      expect(sum("leftOut")).toBeLessThan(30);
    });

    await test.step("what readers did is counted, laid over the proof, and told from scanners", async () => {
      own.platform.clock.set({ now: new Date(own.platform.clock.now() + 4 * day).toISOString() });
      const clicks: { kind: string; agent?: string; link?: string }[] = [];
      for (let after = "0", more = true; more; ) {
        const page = await fetch(`${own.platform.address}/events?template=${template}&after=${after}`, {
          headers: { authorization: "Bearer by-the-test" },
        }).then((r) => r.json());
        clicks.push(...page.events.filter((e: { kind: string }) => e.kind === "clicked"));
        ({ next: after, more } = page);
      }
      const byReaders = clicks.filter((c) => !c.agent?.startsWith("mail-scan")).length;
      expect(byReaders).toBeGreaterThan(50);
      // The demo's own are among them already.
      const before = 640;
      await expect
        .poll(async () => (await lead.request.get(`/api/hand-offs/${handOff}/returns`).then((r) => r.json())).counts.sent, {
          timeout: 60_000,
        })
        .toBeGreaterThan(before + 1_800);
      await expect
        .poll(async () => {
          const { counts, links } = await lead.request.get(`/api/hand-offs/${handOff}/returns`).then((r) => r.json());
          expect(links.reduce((all: number, l: { clicked: number }) => all + l.clicked, 0)).toBe(counts.clicked);
          return counts.clicked - byReaders;
        })
        .toBeGreaterThan(0);
      const send = (await lead.request.get(`/api/hand-offs/${handOff}/sending`).then((r) => r.json())).sends[0].id;
      await expect
        .poll(
          async () => {
            const missed: { answer: string }[] = await lead.request
              .get(`/api/hand-offs/${handOff}/sends/${send}/not-reached`)
              .then((r) => r.json());
            return missed.filter((m) => m.answer === "Bounced: 550 No such mailbox").length;
          },
          { timeout: 30_000 },
        )
        .toBeGreaterThan(5);
      await lead.reload();
      await expect(came(lead).getByText(/clicks of mail scanners are not among them/)).toBeVisible();
      await expect(came(lead).locator("b", { hasText: "%" }).first()).toBeVisible();
      await expect(came(lead).getByRole("table", { name: "Clicks by link" })).toBeVisible();
      await expectNoViolationsInBoth(lead, ["iframe"]);
      await lead.goto("/sending");
      await lead.getByText("Saved row", { exact: true }).click();
      await expect(lead.getByRole("rowheader", { name: "Masthead" })).toBeVisible();
      await expectNoViolationsInBoth(lead);
    });

    await test.step("withdrawn here, it is withdrawn there", async () => {
      await lead.goto(`/emails/${autumn}/hand-offs`);
      await lead.getByRole("button", { name: "Withdraw" }).click();
      await lead.getByLabel("Why is it withdrawn?").fill("The scarf is sold out");
      await lead.getByRole("dialog").getByRole("button", { name: "Withdraw" }).click();
      await expect(where(lead).getByText("Withdrawn there too.")).toBeVisible({ timeout: 30_000 });
      await expect(lead.getByRole("button", { name: "Send to another list" })).toBeDisabled();
    });
  });
});

test("a small list from a file goes out by the mail server, each once, with a way out of their own", async ({ browser }) => {
  await withOwn("sending_smtp", 900, async (own) => {
    const lead = await signIn(browser, "ruth", "/", own.url);
    await lead.goto(`/emails/${autumn}/hand-offs`);
    const list = (lines: string[]) => ({
      name: "list.csv",
      mimeType: "text/csv",
      buffer: Buffer.from(["Email,First name", ...lines].join("\r\n")),
    });
    const send = async (lines: string[], button: string) => {
      await lead.getByRole("button", { name: /^Send (in batches|to another list)$/ }).click();
      const dialog = lead.getByRole("dialog", { name: "Send in batches" });
      await dialog.locator("input[type=file]").setInputFiles(list(lines));
      await dialog.getByLabel("Readers in a batch").fill("2");
      await dialog.getByLabel("Minutes between").fill("15");
      const go = dialog.getByRole("button", { name: button });
      await expect(go).toBeEnabled();
      return { dialog, go };
    };

    const { dialog, go } = await send(
      [
        "ada@readers.example.org,Ada",
        "Ada@readers.example.org,Ada",
        "info@readers.example.org,",
        "nobody,",
        "bram@readers.example.org,Bram",
        "cleo@readers.example.org,Cléo",
      ],
      "Send to 3 readers",
    );
    await dialog.getByText("Lines left out: 1 cannot be read, 1 stand there twice, 1 are addresses of roles").click();
    const broken = dialog.getByText('Line 5: "nobody" is no email address.');
    await expect(broken).toBeVisible();
    // Another plan leaves what was opened open.
    await dialog.getByLabel("Readers in a batch").fill("1");
    await expect(dialog.getByText("3 readers in 3 batches")).toBeVisible();
    await expect(broken).toBeVisible();
    await dialog.getByLabel("Readers in a batch").fill("2");
    await expect(dialog.getByText("3 readers in 2 batches")).toBeVisible();
    await go.click();
    const first = lead.getByRole("region", { name: "Sent to list.csv" }).last();
    await expect(first.getByText("Done.")).toBeVisible({ timeout: 60_000 });

    const mails = async () =>
      (await (await fetch(`http://127.0.0.1:${own.mailbox.httpPort}/messages`)).json()) as { id: number; to: string[] }[];
    const got = await mails();
    expect(got.map((m) => m.to[0]).sort()).toEqual(["ada@readers.example.org", "bram@readers.example.org", "cleo@readers.example.org"]);
    const ada = got.find((m) => m.to[0]?.startsWith("ada"))?.id;
    const { headers } = await (await fetch(`http://127.0.0.1:${own.mailbox.httpPort}/messages/${ada}`)).json();
    const header = (headers as string[]).find((h) => h.startsWith("List-Unsubscribe:"))?.replaceAll(/\s/g, "") ?? "";
    const way = /<([^>]+)>/.exec(header)?.[1] ?? "";
    expect(way).toContain(`${own.url}/unsubscribe/`);

    // Looking unsubscribes nobody; one press does (RFC 8058, 3.2), and a forged address does nothing.
    const reader = await (await browser.newContext()).newPage();
    await reader.goto(way);
    await expect(reader.getByRole("heading", { name: "Unsubscribe" })).toBeVisible();
    const press = (to: string, body: string) =>
      fetch(to, { method: "POST", headers: { "content-type": "application/x-www-form-urlencoded" }, body }).then((r) => r.status);
    expect(await press(way, "something=else")).toBe(400);
    expect(await press(`${way}x`, "List-Unsubscribe=One-Click")).toBe(404);
    expect(await press(way, "List-Unsubscribe=One-Click")).toBe(200);

    // Whoever got it, or unsubscribed, is left out of the next list.
    const next = await send(
      ["ada@readers.example.org,Ada", "bram@readers.example.org,Bram", "dov@readers.example.org,Dov"],
      "Send to 1 reader",
    );
    await expect(next.dialog.getByText("Left out: 1 unsubscribed, 1 who got it already.")).toBeVisible();
    await next.go.click();
    await expect.poll(async () => (await mails()).length, { timeout: 60_000 }).toBe(4);
    expect((await mails())[0]?.to).toEqual(["dov@readers.example.org"]);
  });
});

test("what a platform makes of the readers in a file is what each of them gets from here", async ({ browser }) => {
  await withOwn("sending_readers", 1, async (own) => {
    const lead = await signIn(browser, "ruth", "/", own.url);
    const { request } = lead;
    const spring = demoEmail("spring-shelf");
    const { hash } = await (await request.get(`/api/emails/${spring}/hand-offs`)).json();
    const made = await request.post(`/api/emails/${spring}/hand-offs`, { data: { id: "0198a000-0000-7000-8000-0000000000e1", hash } });
    expect(made.ok(), await made.text()).toBe(true);
    const handOff = (await made.json()).record.id;
    const destination = "0198a000-0000-7000-8000-0000000000e2";
    const added = await request.post("/api/destinations", {
      data: {
        id: destination,
        name: "Platform",
        kind: "platform",
        address: own.platform.address,
        secret: "by-the-test",
        pictures: "linked",
      },
    });
    expect(added.ok(), await added.text()).toBe(true);
    const readers: { id: string; values: Record<string, string> }[] = await (await request.get("/api/sample-readers")).json();
    const keys = [...new Set(readers.flatMap((r) => Object.keys(r.values)))];
    const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
    const lines = readers.map((r, i) => [`reader.${i}@samples.example.org`, ...keys.map((k) => r.values[k] ?? "")].map(quoted).join(","));
    const file = Buffer.from(`${["Email", ...keys].join(",")}\n${lines.join("\n")}\n`).toString("base64");
    const rule = { size: 200, minutes: 30, dailyGrowth: 0, most: 200, from: 0, until: 24 };
    // It takes the email late: the batch waits for that.
    own.platform.faults.plan({ path: "/templates", method: "PUT", kind: "slow", seconds: 4 });
    const sent = await request.post(`/api/hand-offs/${handOff}/sends`, {
      data: { id: "0198a000-0000-7000-8000-0000000000e3", destination, rule, zone: "Europe/London", file, fileName: "readers.csv" },
    });
    expect(sent.ok(), await sent.text()).toBe(true);
    await expect.poll(() => own.platform.messages.length, { timeout: 60_000 }).toBe(readers.length);
    const seen = new Set<string>();
    for (const [i, reader] of readers.entries()) {
      const here = await simpleParser(await (await request.get(`/api/hand-offs/${handOff}/message?sample=${reader.id}`)).body());
      const there = own.platform.messages.find((m) => m.to === `reader.${i}@samples.example.org`);
      expect(there?.subject).toBe(here.subject);
      expect(there?.html.replaceAll("\r\n", "\n").trim()).toBe((here.html || "").replaceAll("\r\n", "\n").trim());
      seen.add(there?.html ?? "");
    }
    // Its condition holds of some and not of others.
    expect(seen.size).toBeGreaterThan(1);
  });
});

/** Listens as whoever gets webhooks does, and says what it heard. */
async function listen(status: () => number, location?: string) {
  const heard: { headers: Record<string, string>; body: string }[] = [];
  const server = createServer((request: IncomingMessage, answer) => {
    const parts: Buffer[] = [];
    request.on("data", (part) => parts.push(part));
    request.on("end", () => {
      heard.push({ headers: request.headers as Record<string, string>, body: Buffer.concat(parts).toString("utf8") });
      answer.writeHead(status(), location ? { location } : {}).end();
    });
  });
  await new Promise<void>((done) => {
    server.listen(0, "127.0.0.1", done);
  });
  return { heard, address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/hook`, stop: () => server.close() };
}

test("webhooks are signed as Standard Webhooks have it, told again, and their secrets rolled without a gap", async ({ browser }) => {
  await withOwn("sending_webhooks", 1, async (own) => {
    const lead = await signIn(browser, "ruth", "/", own.url);
    let status = 500;
    const hook = await listen(() => status);
    await lead.goto("/sending/webhooks");
    await lead.getByLabel("Name").fill("The archive");
    await lead.getByLabel("Address").fill(hook.address);
    await lead.getByLabel("A hand-off is withdrawn").check();
    await lead.getByLabel("An email is handed off").check();
    await lead.getByRole("button", { name: "Add a webhook" }).click();
    const first = (await lead.locator("code", { hasText: /^whsec_/ }).textContent()) ?? "";
    await lead.getByRole("button", { name: "I have it" }).click();

    // The npm package "standardwebhooks" verifies: an outside judge of the signature, the time and the id.
    const verify = (secret: string, one = hook.heard.at(-1)) =>
      new Webhook(secret).verify(one?.body ?? "", one?.headers ?? {}) as { type: string };
    await lead.getByRole("button", { name: "Try it" }).click();
    await expect.poll(() => hook.heard.length).toBe(1);
    expect(verify(first).type).toBe("test");
    await expect(lead.getByText(/waits: It answered 500\./)).toBeVisible();
    status = 204;
    await expect.poll(() => hook.heard.length).toBe(2);
    expect(hook.heard[1]?.headers["webhook-id"]).toBe(hook.heard[0]?.headers["webhook-id"]);
    await expect(lead.getByText("delivered: It answered 204.")).toBeVisible();
    await expectNoViolationsInBoth(lead);

    await lead.getByRole("button", { name: "Roll the secret" }).click();
    const second = (await lead.locator("code", { hasText: /^whsec_/ }).textContent()) ?? "";
    expect(second).not.toBe(first);
    await lead.request.post(`/api/hand-offs/${await lastHandOff(lead, autumn)}/withdrawal`, { data: { reason: "Sold out" } });
    await expect.poll(() => hook.heard.length).toBe(3);
    expect([verify(first).type, verify(second).type]).toEqual(["hand-off.withdrawn", "hand-off.withdrawn"]);
    expect(() => verify(`whsec_${Buffer.alloc(32).toString("base64")}`)).toThrow();
    expect(() => verify(first, { headers: hook.heard[2]?.headers ?? {}, body: `${hook.heard[2]?.body} ` })).toThrow();

    // What leads elsewhere is not followed, wherever that is.
    const inward = await listen(() => 200);
    const moved = await listen(() => 302, inward.address);
    await lead.getByRole("button", { name: "Change" }).click();
    const change = lead.getByRole("form", { name: "Change The archive" });
    await change.getByLabel("Address").fill(moved.address);
    await change.getByRole("button", { name: "Save the change" }).click();
    await expect(change).toHaveCount(0);
    await expect(lead.getByText(moved.address)).toBeVisible();
    await lead.getByRole("button", { name: "Try it" }).click();
    await expect(lead.getByText(/It answered 302: it leads elsewhere/)).toBeVisible();
    expect(inward.heard).toEqual([]);
    for (const one of [hook, inward, moved]) one.stop();
  });
});

test("a token fetches hand-offs with curl, does nothing else, and is revoked", async ({ browser, baseURL }) => {
  const lead = await signIn(browser, "ruth", "/sending/tokens");
  await lead.getByLabel("What is it for?").fill("The sending side");
  await lead.getByLabel("Find and fetch hand-offs").check();
  await lead.getByRole("button", { name: "Create a token" }).click();
  const token = (await lead.locator("code", { hasText: /^gr_/ }).first().textContent()) ?? "";
  await expectNoViolationsInBoth(lead);
  const curl = (path: string, ...more: string[]) => {
    const said = execFileSync(
      "curl",
      ["-s", "-w", "\n%{http_code} %{header_json}", "-H", `Authorization: Bearer ${token}`, ...more, `${baseURL}${path}`],
      { encoding: "utf8" },
    );
    const at = said.search(/\n\d{3} \{/);
    return {
      body: said.slice(0, at),
      status: Number(said.slice(at + 1, at + 4)),
      headers: JSON.parse(said.slice(at + 5)) as Record<string, string[]>,
    };
  };
  const found = curl("/api/hand-offs?limit=2");
  expect(found.status).toBe(200);
  const page = JSON.parse(found.body);
  expect([page.all.length, page.more]).toEqual([2, true]);
  const all = [...page.all];
  for (let { since, more } = page; more; ) {
    const next = JSON.parse(curl(`/api/hand-offs?limit=2&since=${encodeURIComponent(since)}`).body);
    all.push(...next.all);
    ({ since, more } = next);
  }
  expect(new Set(all.map((h: { id: string }) => h.id)).size).toBe(all.length);
  const etag = found.headers.etag?.[0] ?? "";
  expect(curl("/api/hand-offs?limit=2", "-H", `If-None-Match: ${etag}`).status).toBe(304);
  const [one] = page.all;
  const html = one.files.find((f: { kind: string; profile: string }) => f.kind === "html" && f.profile === one.profile);
  const file = curl(`/api/hand-offs/${one.id}/files/${html.name}`);
  expect(file.headers.etag?.[0]).toBe(`"${html.sha256}"`);
  // It reads hand-offs, and opens nothing else.
  expect(curl(`/api/hand-offs/${one.id}/events`, "-H", "content-type: application/json", "-d", '{"events":[]}').status).toBe(403);
  expect(curl("/api/emails").status).toBe(401);
  expect(curl("/api/hand-offs?since=elsewhere").status).toBe(400);
  await lead.reload();
  await expect(lead.getByRole("row", { name: /The sending side/ })).not.toContainText("never");
  await lead.getByRole("button", { name: "Revoke The sending side" }).click();
  await expect(lead.getByText(/^revoked/)).toBeVisible();
  expect(curl("/api/hand-offs").status).toBe(401);
  expect(await (await lead.request.get("/api/hand-offs")).status()).toBe(401);
});

test("authors see what came back, and neither destinations nor tokens", async ({ browser }: { browser: Browser }) => {
  const author = await signIn(browser, "bea", "/sending/tokens");
  await expect(author.getByRole("heading", { name: "Sending" })).toBeVisible();
  await expect(author.getByRole("link", { name: "API tokens" })).toHaveCount(0);
  for (const path of ["/api/tokens", "/api/webhooks"]) {
    expect((await author.request.get(path)).status()).toBe(403);
  }
});
