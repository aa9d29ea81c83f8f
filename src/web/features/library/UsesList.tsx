import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../../api/queries";
import { countOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import { rooms } from "../../shared/rooms";
import { useIs } from "../session/useSession";
import classes from "./UsesList.module.css";

/** What uses something, a click away: the library's documents first, then emails page by page. */
export function UsesList({ of, id, revision }: { of: "pictures" | "templates" | "rows" | "snippets"; id: string; revision?: number }) {
  const uses = useInfiniteQuery(queries.uses(of, id, revision));
  const makes = useIs("lead", "designer");
  if (!uses.data) {
    return <Pending query={uses} what="Where it is used" />;
  }
  const [first] = uses.data.pages;
  const all = uses.data.pages.flatMap((p) => p.uses).filter((u) => u.id !== id);
  return (
    <>
      {all.length === 0 && <p className="soft">Nowhere yet.</p>}
      {first && first.emails > 0 && <p className="soft">{countOf(first.emails, "email")}, the last changed first.</p>}
      <ul className={classes.uses}>
        {all.map((use) => (
          <li key={use.id}>
            {makes || use.kind === "email" || use.kind === "house-style" ? (
              <Link to={`/${rooms[use.kind]}/${use.id}`}>{use.name}</Link>
            ) : (
              use.name
            )}{" "}
            <span className="soft">
              {use.kind.replace("-", " ")}
              {use.state && `, ${use.state.replace("-", " ")}`}
            </span>
          </li>
        ))}
      </ul>
      {uses.hasNextPage && (
        <button type="button" className="plain underlined" disabled={uses.isFetching} onClick={() => uses.fetchNextPage()}>
          Show more
        </button>
      )}
      {first && first.unread > 0 && (
        <p role="status">{countOf(first.unread, "document is", "documents are")} still being read after the update; there may be more.</p>
      )}
    </>
  );
}
