import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, askText } from "../../api/client";
import { queries } from "../../api/queries";
import type { MailroomMail } from "../../api/types";
import { clockTime, dateAndTimeOf, sizeOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import classes from "./MailroomRoom.module.css";

const views = [
  { view: "desktop", name: "Desktop" },
  { view: "phone", name: "Phone" },
  { view: "text", name: "Plain text" },
  { view: "filters", name: "What filters look at" },
  { view: "headers", name: "Headers" },
  { view: "source", name: "Source" },
] as const;

type View = (typeof views)[number]["view"];

/** The simulated mailbox of the demo: what this server sent, as it would be read. */
export default function MailroomRoom() {
  const { id } = useParams();
  const go = useNavigate();
  const mails = useQuery(queries.mailroom);
  const first = mails.data?.[0]?.id;
  useEffect(() => {
    if (!id && first) {
      go(`/mailroom/${first}`, { replace: true });
    }
  }, [id, first, go]);
  return (
    <div className={classes.room}>
      <title>Mailroom · Golden Rule</title>
      <section className={classes.list} aria-label="Mails">
        <h1>Mailroom</h1>
        <p className={classes.about}>A simulated mailbox: all that this server sends ends here.</p>
        <Pending query={mails} what="The mails" />
        {mails.data?.length === 0 && <p className={classes.about}>Nothing was sent yet. Invite someone, in People.</p>}
        <ul>
          {mails.data?.map((mail) => (
            <li key={mail.id}>
              <Link to={`/mailroom/${mail.id}`} className={classes.entry} aria-current={`${mail.id}` === id ? "page" : undefined}>
                <b>{mail.subject}</b>
                <span className="soft">{clockTime(mail.at)}</span>
                <span className={classes.preview}>
                  To {mail.to.join(", ")}. {mail.preview}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
      {id ? <Opened key={id} id={Number(id)} /> : <div />}
    </div>
  );
}

function Opened({ id }: { id: number }) {
  const mail = useQuery(queries.mail(id));
  const [view, setView] = useState<View>("desktop");
  if (!mail.data) {
    return (
      <section className={classes.mail} aria-label="Mail">
        <Pending query={mail} what="The mail" />
      </section>
    );
  }
  return (
    <section className={classes.mail} aria-label={mail.data.subject}>
      <h2>{mail.data.subject}</h2>
      <p className="soft">
        From {mail.data.from} to {mail.data.to.join(", ")}, {dateAndTimeOf(mail.data.at)}
        {mail.data.attachments.map((a) => `, ${a.name} (${sizeOf(a.bytes)})`)}
      </p>
      <fieldset className={classes.views}>
        <legend className="only-heard">Show it as</legend>
        {views.map((one) => (
          <button key={one.view} type="button" className="plain" aria-pressed={view === one.view} onClick={() => setView(one.view)}>
            {one.name}
          </button>
        ))}
      </fieldset>
      <Shown mail={mail.data} view={view} />
    </section>
  );
}

function Shown({ mail, view }: { mail: MailroomMail; view: View }) {
  const source = useQuery({
    queryKey: ["mailroom", mail.id, "source"],
    enabled: view === "source",
    queryFn: () => askText(`/api/mailroom/${mail.id}/source`),
  });
  if (view === "text" || (!mail.html && (view === "desktop" || view === "phone"))) {
    return <Words label="Plain text">{mail.text}</Words>;
  }
  if (view === "filters") {
    return <FilterSigns id={mail.id} />;
  }
  if (view === "headers") {
    return <Words label="Headers">{mail.headers.join("\n")}</Words>;
  }
  if (view === "source") {
    return source.data === undefined ? <Pending query={source} what="The source" /> : <Words label="Source">{source.data}</Words>;
  }
  // It runs nothing; its links open in a window of their own.
  return (
    <iframe
      title={view === "phone" ? "As a phone shows it" : "As a desktop shows it"}
      className={classes.frame}
      data-phone={view === "phone"}
      sandbox="allow-popups allow-popups-to-escape-sandbox"
      srcDoc={`<base target="_blank">${mail.html}`}
    />
  );
}

/** What a filter sees of it, each with what it is good for. */
function FilterSigns({ id }: { id: number }) {
  const signs = useQuery({
    queryKey: ["mailroom", id, "signs"],
    queryFn: () => ask(api.GET("/api/mailroom/{id}/signs", { params: { path: { id } } })),
  });
  return signs.data === undefined ? (
    <Pending query={signs} what="What filters look at" />
  ) : (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by key.
    <section aria-label="What filters look at" tabIndex={0} className={classes.signs}>
      <dl>
        {signs.data.map((sign) => (
          <div key={sign.name}>
            <dt>{sign.name}</dt>
            <dd>
              <b>
                {sign.isSound ? "✓" : "▲"} {sign.found}
              </b>
              <p className="soft">{sign.why}</p>
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** Words as they stand in the mail; scrolled by key too. */
function Words({ label, children }: { label: string; children: string }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by key.
    <section aria-label={label} tabIndex={0} className={classes.text}>
      {children}
    </section>
  );
}
