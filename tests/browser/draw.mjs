// Has the small pictures of all demo documents drawn: draw.mjs ADDRESS. Copies of the database then bring them along.
const [address] = process.argv.slice(2);
const headers = { "content-type": "application/json" };
const signIn = { email: "ruth@larkfell.example.org", password: "steam-and-cinders" };
const session = await fetch(`${address}/api/session`, { method: "POST", headers, body: JSON.stringify(signIn) });
headers.cookie = session.headers
  .getSetCookie()
  .map((cookie) => cookie.split(";")[0])
  .join("; ");
const get = async (path) => (await fetch(`${address}/api/${path}`, { headers })).json();
const [{ templates }, { rows }, { emails }] = await Promise.all(["templates", "rows", "emails"].map(get));
const subjects = [
  ...templates.flatMap(({ id }) => ["desktop", "phone"].map((screen) => ({ kind: "template", id, screen }))),
  ...rows.flatMap(({ id }) => [false, true].map((draft) => ({ kind: "row", id, draft }))),
  ...emails.map(({ id }) => ({ kind: "email", id })),
];
for (let coming = true; coming; ) {
  const answer = await fetch(`${address}/api/thumbnails`, { method: "POST", headers, body: JSON.stringify({ subjects }) });
  if (!answer.ok) throw new Error(await answer.text());
  const found = await answer.json();
  coming = found.some((t) => t.coming);
  if (!coming && found.some((t) => !t.id)) throw new Error("Some could not be drawn.");
  await new Promise((resolve) => setTimeout(resolve, 200));
}
