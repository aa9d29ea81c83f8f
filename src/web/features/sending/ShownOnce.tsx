import { Button, CopyButton } from "@mantine/core";
import classes from "./Sending.module.css";

/** A secret that is shown now and never again. */
export function ShownOnce({
  what,
  secret,
  children,
  onDone,
}: {
  what: string;
  secret: string;
  children?: React.ReactNode;
  onDone: () => void;
}) {
  return (
    <div role="alert" className={classes.once}>
      <p>
        <b>{what}.</b> Copy it now: it is not shown again.
      </p>
      <code>{secret}</code>
      <div className={classes.acts}>
        <CopyButton value={secret}>
          {({ copied, copy }) => (
            <Button size="xs" onClick={copy}>
              {copied ? "Copied" : "Copy"}
            </Button>
          )}
        </CopyButton>
        <Button size="xs" variant="default" onClick={onDone}>
          I have it
        </Button>
      </div>
      {children}
    </div>
  );
}
