import { Button } from "@mantine/core";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { MailThumbnail } from "../../shared/MailThumbnail";
import { dayOf } from "../../shared/when";
import classes from "./EmailsRoom.module.css";

const states = { draft: "Draft", "in-review": "In review", approved: "Approved", "handed-off": "Handed off" };

/** Every email, the last changed first. */
export default function EmailsRoom() {
  const types = useQuery({ queryKey: ["campaign-types"], queryFn: () => ask(api.GET("/api/campaign-types")) });
  const emails = useInfiniteQuery({
    queryKey: ["emails"],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) => ask(api.GET("/api/emails", { params: { query: { after: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchOnMount: "always",
  });
  const all = emails.data?.pages.flatMap((p) => p.emails) ?? [];

  return (
    <div className={classes.room}>
      <h1>Emails</h1>
      {emails.error && <p role="alert">{emails.error.message}</p>}
      {emails.data && all.length === 0 && (
        <p className={classes.empty}>
          No emails yet. <Link to="/templates">Choose a template</Link> to start the first.
        </p>
      )}
      <ul className={classes.list}>
        {all.map((email) => (
          <li key={email.id}>
            <Link to={`/emails/${email.id}`} className={classes.email}>
              <MailThumbnail
                src={`/api/emails/${email.id}/html?proof=true&revision=${email.revision}`}
                width={176}
                height={200}
                label={`${email.name}, as it looks`}
              />
              <span className={classes.name}>{email.name}</span>
              <span className="soft">{types.data?.find((t) => t.key === email.campaignType)?.name}</span>
              <span className={classes.state} data-state={email.state}>
                {states[email.state]}
              </span>
              <span className="soft">
                {email.author}, {dayOf(email.changedAt)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {emails.hasNextPage && (
        <Button variant="default" loading={emails.isFetchingNextPage} onClick={() => emails.fetchNextPage()}>
          Show more
        </Button>
      )}
    </div>
  );
}
