// General-purpose CSS inlining and nodemailer's composer on the very HTML that the core fills in: one personal message, its name put
// in by replacing. Prints the median, nanoseconds.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const require = createRequire(new URL("../browser/package.json", import.meta.url));
const juice = require("juice");
const { convert } = require("html-to-text");
const MailComposer = require("nodemailer/lib/mail-composer");

const html = readFileSync(process.argv[2], "utf8");
const compose = (number) => {
  const own = juice(html.replace("</title>", ` for Reader ${number}</title>`));
  return new MailComposer({
    from: "Larkfell Shop <post@larkfell.example.org>",
    to: `reader-${number}@example.org`,
    subject: `For Reader ${number}`,
    html: own,
    text: convert(own),
  })
    .compile()
    .build();
};
const times = [];
for (let i = 0; i < 40; i++) {
  const start = process.hrtime.bigint();
  await compose(i);
  times.push(Number(process.hrtime.bigint() - start));
}
const warm = times.slice(10).sort((a, b) => a - b);
console.log(warm[Math.floor(warm.length / 2)]);
