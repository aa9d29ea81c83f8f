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
  return query.data === undefined && query.isPending ? (
    <p role="status" className={classes.loading}>
      Loading…
    </p>
  ) : null;
}
