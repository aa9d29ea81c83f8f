import { Button } from "@mantine/core";
import type { ReactNode } from "react";
import classes from "./ListRoom.module.css";
import { Pending } from "./Pending";

interface Props {
  title: string;
  /** What the list can be narrowed to, under the title. */
  filters: ReactNode;
  /** Finding and making, over the list. */
  bar: ReactNode;
  /** What the list holds now, for those who hear it. */
  label: string;
  children: ReactNode;
  /** What is said of the chosen one. */
  aside?: ReactNode;
}

/** The form that every library has: what it is narrowed to at the side, finding and making above, what there is below. */
export function ListRoom({ title, filters, bar, label, children, aside }: Props) {
  return (
    <div className={classes.room} data-aside={aside !== undefined}>
      <title>{`${title} · Golden Rule`}</title>
      <div className={classes.side}>
        <h1>{title}</h1>
        {filters}
      </div>
      <section className={classes.middle} aria-label={label}>
        <div className={classes.bar}>{bar}</div>
        {children}
      </section>
      {aside}
    </div>
  );
}

interface Filter {
  /** None: everything. */
  value?: string;
  name: string;
  note?: string;
  count?: number;
}

/** One list to narrow by, of which one holds. */
export function FilterList({ label, all, chosen, onChoose }: FilterListProps) {
  return (
    <nav aria-label={label} className={classes.filters}>
      {all.map((one) => (
        <button
          type="button"
          key={one.value ?? ""}
          className={`plain ${classes.filter}`}
          aria-current={chosen === one.value}
          onClick={() => onChoose(one.value)}
        >
          <span>
            {one.name}
            {one.note && <span className={classes.note}>{one.note}</span>}
          </span>
          {one.count !== undefined && <span className="soft">{one.count}</span>}
        </button>
      ))}
    </nav>
  );
}

interface FilterListProps {
  label: string;
  all: Filter[];
  chosen?: string;
  onChoose: (value?: string) => void;
}

interface Listed {
  data?: unknown;
  error: Error | null;
  isPending: boolean;
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  refetch: () => unknown;
  fetchNextPage: () => unknown;
}

/** Asks for what comes next, where there is something and it is not being asked for. */
export const moreOf = (pages: Listed) => () => {
  if (pages.hasNextPage && !pages.isFetchingNextPage) {
    pages.fetchNextPage();
  }
};

/** What a list holds: being asked for, not to be had, empty, or there with more to come. */
export function Listing({
  pages,
  what,
  count,
  empty,
  children,
}: {
  pages: Listed;
  what: string;
  empty: ReactNode;
  children: ReactNode;
  count: number;
}) {
  return (
    <>
      <Pending query={pages} what={what} />
      {pages.data !== undefined && !pages.hasNextPage && count === 0 && <p className={classes.empty}>{empty}</p>}
      {children}
      {pages.hasNextPage && (
        <Button variant="default" loading={pages.isFetchingNextPage} onClick={() => pages.fetchNextPage()}>
          Show more
        </Button>
      )}
    </>
  );
}
