import { useQuery } from "@tanstack/react-query";
import classes from "./PlainText.module.css";

/** The plain text alternative, as it would be sent. */
export function PlainText({ email, revision }: { email: string; revision: number }) {
  const text = useQuery({
    queryKey: ["text", email, revision],
    placeholderData: (former: string | undefined) => former,
    queryFn: async () => (await fetch(`/api/emails/${email}/text`)).text(),
  });
  return <pre className={classes.text}>{text.data}</pre>;
}
