import { Checkbox } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { NoticeSetting } from "../../api/types";
import { Pending } from "../../shared/Pending";
import { useSetting } from "../../shared/useSetting";
import { acts } from "../home/waits";
import classes from "./AccountRoom.module.css";
import { useIs } from "./useSession";

/** What one is told of, in the application and by mail. */
export function NoticesSheet() {
  const leads = useIs("lead");
  const notices = useQuery(queries.notices);
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
      {notices.data && (
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Here</th>
              <th scope="col">By mail</th>
            </tr>
          </thead>
          <tbody>
            {notices.data.settings
              .filter((one) => leads || one.kind !== "same-browser")
              .map((one) => (
                <NoticeRow key={one.kind} setting={one} />
              ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function NoticeRow({ setting }: { setting: NoticeSetting }) {
  const cache = useQueryClient();
  const { value, set, fault } = useSetting(setting, async (next) => {
    const answer = await ask(api.PUT("/api/notices", { body: [next] }));
    cache.setQueryData(queries.notices.queryKey, answer);
    void cache.invalidateQueries({ queryKey: ["home"] });
    return next;
  });
  const { label } = acts[setting.kind];
  return (
    <tr>
      <th scope="row">
        {label}
        {fault && <p role="alert">■ {fault}</p>}
      </th>
      <td>
        <Checkbox
          aria-label={`${label}, here`}
          checked={value.inApplication}
          onChange={({ currentTarget: { checked } }) => set((now) => ({ ...now, inApplication: checked }))}
        />
      </td>
      <td>
        <Checkbox
          aria-label={`${label}, by mail`}
          checked={value.byMail}
          onChange={({ currentTarget: { checked } }) => set((now) => ({ ...now, byMail: checked }))}
        />
      </td>
    </tr>
  );
}
