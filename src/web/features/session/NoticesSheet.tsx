import { Checkbox } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { NoticeSetting } from "../../api/types";
import { Pending } from "../../shared/Pending";
import { acts } from "../home/waits";
import classes from "./AccountRoom.module.css";
import { useIs } from "./useSession";

/** What one is told of, in the application and by mail. */
export function NoticesSheet() {
  const cache = useQueryClient();
  const leads = useIs("lead");
  const notices = useQuery(queries.notices);
  const set = useMutation({
    scope: { id: "notices" },
    mutationFn: (one: NoticeSetting) => ask(api.PUT("/api/notices", { body: [one] })),
    onSuccess: (answer) => cache.setQueryData(queries.notices.queryKey, answer),
    onSettled: () => cache.invalidateQueries({ queryKey: ["home"] }),
  });
  // Until it is stored, what was ticked is shown; where it was not, what is.
  const shown = notices.data?.settings.map((s) => (set.isPending && set.variables.kind === s.kind ? set.variables : s));
  return (
    <section aria-labelledby="own-notices">
      <h2 id="own-notices">What you are told of</h2>
      <p className="soft">
        {notices.data?.mails === false
          ? "This server sends no mail; whoever runs it can set that up."
          : "Mails are gathered: at most one an hour, and nothing that you answered within a few minutes."}{" "}
        Home shows all that waits, whatever is ticked here.
      </p>
      <Pending query={notices} what="What you are told of" />
      {shown && (
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Here</th>
              <th scope="col">By mail</th>
            </tr>
          </thead>
          <tbody>
            {shown
              .filter((one) => leads || one.kind !== "same-browser")
              .map((one) => (
                <tr key={one.kind}>
                  <th scope="row">{acts[one.kind].label}</th>
                  <td>
                    <Checkbox
                      aria-label={`${acts[one.kind].label}, here`}
                      checked={one.inApplication}
                      onChange={(e) => set.mutate({ ...one, inApplication: e.currentTarget.checked })}
                    />
                  </td>
                  <td>
                    <Checkbox
                      aria-label={`${acts[one.kind].label}, by mail`}
                      checked={one.byMail}
                      onChange={(e) => set.mutate({ ...one, byMail: e.currentTarget.checked })}
                    />
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      )}
      {set.error && <p role="alert">■ {set.error.message}</p>}
    </section>
  );
}
