import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import classes from "./PicturesRoom.module.css";

const rooms: Record<string, (id: string) => string> = {
  email: (id) => `/emails/${id}`,
  template: () => "/templates",
  "house-style": (id) => `/house-style/${id}`,
};

/** Where a picture is shown, a click away. */
export function PictureUses({ id }: { id: string }) {
  const uses = useQuery({
    queryKey: ["pictures", "uses", id],
    queryFn: () => ask(api.GET("/api/pictures/{id}/uses", { params: { path: { id } } })),
  });
  return (
    <>
      <h2>Where it is used</h2>
      {uses.data?.length === 0 && <p className="soft">Nowhere yet.</p>}
      <ul className={classes.uses}>
        {uses.data?.map((use) => {
          const room = rooms[use.kind];
          return (
            <li key={use.id}>
              {room ? <Link to={room(use.id)}>{use.name}</Link> : use.name}
              <span className="soft">
                {" "}
                {use.kind.replace("-", " ")}
                {use.state && `, ${use.state.replace("-", " ")}`}
              </span>
            </li>
          );
        })}
      </ul>
    </>
  );
}
