// Starts the mailbox:  node start.mjs SMTP_PORT HTTP_PORT  with its password in MAILBOX_PASSWORD.
import { startMailbox } from "./mailbox.mjs";

const [smtpPort, httpPort] = process.argv.slice(2).map(Number);
const mailbox = await startMailbox({ smtpPort, httpPort, password: process.env.MAILBOX_PASSWORD });
console.log(`${mailbox.smtpPort} ${mailbox.httpPort}`);
