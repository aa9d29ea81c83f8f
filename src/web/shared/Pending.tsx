import classes from "./Pending.module.css";

interface Asked {
  data?: unknown;
  error: Error | null;
  isPending: boolean;
  refetch: () => unknown;
}

/** Stands where an answer will: that it is being asked for, or that it could not be had and how to ask again. */
export function Pending({ query, what }: { query: Asked; what: string }) {
  if (query.error) {
    return (
      <p role="alert" className={classes.failed}>
        {what} could not load: {query.error.message}{" "}
        <button type="button" className="plain underlined" onClick={() => query.refetch()}>
          Try again
        </button>
      </p>
    );
  }
  return query.data === undefined && query.isPending ? <Loading /> : null;
}

export const Loading = () => (
  <p role="status" className={classes.loading}>
    Loading…
  </p>
);

/** Stands where a part of the interface will: the server is out of reach, or has another release than this page by now. */
export const NotFetched = () => (
  <p role="alert" className={classes.failed}>
    This part could not be fetched; it is tried again. If Golden Rule was updated meanwhile,{" "}
    <button type="button" className="plain underlined" onClick={() => location.reload()}>
      load the page again
    </button>
    .
  </p>
);
