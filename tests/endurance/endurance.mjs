// Many authors at once over HTTP, with the server killed and PostgreSQL restarted under them. Arguments: seconds, address
// of the server, a command that kills and starts the server, one that restarts PostgreSQL, one that prints the stored
// edits of an email as lines "sequence id". Prints what was found, and ends with 1 where anything is wrong.
import { execFile } from "node:child_process";
import { promisify } from "node:util";
import { Author, pause, seed, startEmails } from "./authors.mjs";

const [seconds, , killServer, restartPostgres, storedEdits] = process.argv.slice(2);
const run = promisify(execFile);
const faults = [];
console.log(`endurance: seed ${seed}`);

async function scene(name, emails, perEmail) {
  const people = ["imran", "bea", "dana", "ruth"];
  const authors = await Promise.all(
    emails.flatMap((email, e) => Array.from({ length: perEmail }, async (_, i) => (await new Author().signIn(people[(e + i) % people.length])).open(email))),
  );
  return { name, emails, authors };
}

async function judge({ name, emails, authors }) {
  let [stored, refused] = [0, 0];
  for (const email of emails) {
    const here = authors.filter((a) => a.email === email);
    const lines = (await run("bash", ["-c", storedEdits, email], { maxBuffer: 1 << 28 })).stdout.trim().split("\n").filter(Boolean).map((l) => l.split(" "));
    const ids = lines.map(([, edit]) => edit);
    const known = new Set(ids);
    if (known.size !== ids.length) faults.push(`${name}: an edit is stored twice.`);
    lines.forEach(([sequence], at) => Number(sequence) === at + 1 || faults.push(`${name}: sequence ${sequence} stands at ${at + 1}.`));
    const acknowledged = here.flatMap((a) => a.acknowledged);
    for (const edit of acknowledged) known.delete(edit) || faults.push(`${name}: acknowledged edit ${edit} is lost.`);
    if (known.size > 0) faults.push(`${name}: ${known.size} edits are stored that nobody was told of.`);
    stored += ids.length;
    refused += here.reduce((sum, a) => sum + a.refused.length, 0);
    const { data: replay } = await here[0].insist(`/api/emails/${email}/replay`);
    if (!replay.equal || replay.revision !== ids.length) faults.push(`${name}: the head of ${email} is not its replay (${replay.revision} of ${ids.length}).`);
    const { data: whole } = await here[0].insist(`/api/emails/${email}/desk`);
    for (const author of here) {
      // What everyone has put together piece by piece is what lies there.
      await author.look();
      const mine = author.order().map((row) => author.rows.get(row)?.html).join("\n");
      const theirs = whole.order.items.flatMap((item) => (item.row ? [item.row] : item.zone.rows)).map((row) => whole.rows.find((r) => r.id === row).html).join("\n");
      if (mine !== theirs || author.desk.head.details.subject !== whole.head.details.subject) faults.push(`${name}: someone sees a stale proof of ${email}.`);
    }
  }
  console.log(`${name}: ${authors.length} authors, ${stored} edits stored, ${refused} refused.`);
  if (stored < authors.length * 2) faults.push(`${name}: hardly anything was done.`);
}

const emails = await startEmails(51, "Endurance");
const scenes = [await scene("one email", emails.slice(0, 1), 20), await scene("fifty emails", emails.slice(1), 1)];
const end = Date.now() + Number(seconds) * 1000;
// On a slow machine it goes on until there is something to judge.
const atLatest = end + 600_000;
const enough = ({ authors }) => Date.now() > atLatest || authors.reduce((sum, a) => sum + a.acknowledged.length, 0) >= authors.length * 3;
const work = scenes.flatMap((s) => s.authors.map((a) => a.work(end, () => enough(s))));
const trouble = (async () => {
  await pause(Number(seconds) * 300);
  await run("bash", ["-c", killServer]);
  console.log("the server was killed and is up again");
  await pause(Number(seconds) * 200);
  await run("bash", ["-c", restartPostgres]);
  console.log("PostgreSQL was restarted");
})();
await Promise.all([...work, trouble]);
for (const s of scenes) await judge(s);
for (const fault of faults.slice(0, 20)) console.log(fault);
process.exit(faults.length === 0 ? 0 : 1);
