import { Checkbox, NativeSelect } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Role, Snippet } from "../../api/types";
import { clockTime, dayOf } from "../../shared/format";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { toggled, useLiveField } from "../../shared/useLiveField";
import { UsesList } from "../library/UsesList";
import classes from "./SnippetsRoom.module.css";

/** Who may use and change a snippet, where it stands, and what was done to it. */
export function SnippetSide({ data }: { data: Snippet }) {
  return (
    <aside className={classes.side} aria-label="Use and history">
      <CampaignTypes data={data} />
      <Editors data={data} />
      <section>
        <h3>Where it is used</h3>
        {data.goingOut
          .filter((out) => out.afterExpiry)
          .map((out) => (
            <p key={out.id} className={classes.fault}>
              ■ {out.name} goes out on {dayOf(out.day)}, after it expires
            </p>
          ))}
        <UsesList of="snippets" id={data.id} revision={data.revision} />
      </section>
      <Status data={data} />
      <section>
        <h3>What was done</h3>
        {data.history.length === 0 && <p className="soft">Nothing since it was made.</p>}
        <ul className={classes.history}>
          {data.history.map((change) => (
            <li key={`${change.at} ${change.what}`}>
              {change.author} {change.what} <span className="soft">{clockTime(change.at)}</span>
            </li>
          ))}
        </ul>
      </section>
    </aside>
  );
}

function CampaignTypes({ data }: { data: Snippet }) {
  const types = useCampaignTypes();
  const [keys, setKeys] = useLiveField(data.snippet.campaignTypes ?? [], "about/campaign-types", (next) => ({
    kind: "set-campaign-types",
    keys: next,
  }));
  return (
    <section>
      <h3>For campaign types</h3>
      {keys.length === 0 && <p className="soft">All. Tick some, and it is offered in those only.</p>}
      {types.listed.map((type) => (
        <Checkbox
          key={type.value}
          label={type.label}
          checked={keys.map(types.current).includes(type.value)}
          disabled={!data.govern.allowed}
          onChange={() => setKeys((now) => toggled(now.map(types.current), type.value))}
        />
      ))}
    </section>
  );
}

interface Editors {
  roles: Role[];
  people: string[];
}

function Editors({ data }: { data: Snippet }) {
  const people = useQuery(queries.people);
  const [editors, setEditors] = useLiveField<Editors>({ roles: [], people: [], ...data.snippet.editors }, "editors", (next) => ({
    kind: "set-snippet-editors",
    editors: next,
  }));
  const named = editors.people;
  const others = people.data?.filter((p) => !named.includes(p.id)) ?? [];
  return (
    <section>
      <h3>Who may change it</h3>
      <p className="soft">Leads, and</p>
      <Checkbox
        label="Designers"
        checked={editors.roles.includes("designer")}
        disabled={!data.govern.allowed}
        onChange={() => setEditors((now) => ({ ...now, roles: toggled(now.roles, "designer") }))}
      />
      {named.map((id) => (
        <Checkbox
          key={id}
          label={people.data?.find((p) => p.id === id)?.name ?? "Someone who left"}
          checked
          disabled={!data.govern.allowed}
          onChange={() => setEditors((now) => ({ ...now, people: toggled(now.people, id) }))}
        />
      ))}
      {data.govern.allowed && others.length > 0 && (
        <NativeSelect
          aria-label="Name someone who may change it"
          size="xs"
          className={classes.choose}
          value=""
          onChange={(e) => {
            const id = e.currentTarget.value;
            if (id) setEditors((now) => ({ ...now, people: toggled(now.people, id) }));
          }}
          data={[{ value: "", label: "Name someone …" }, ...others.map((p) => ({ value: p.id, label: p.name }))]}
        />
      )}
    </section>
  );
}

function Status({ data }: { data: Snippet }) {
  const cache = useQueryClient();
  const [heir, setHeir] = useLiveField(data.snippet.replacedBy ?? "", "replaced-by", (next) => ({
    kind: "replace-snippet",
    by: next || null,
  }));
  const all = useQuery(queries.snippets);
  const retire = useMutation({
    mutationFn: (retired: boolean) => ask(api.PUT("/api/snippets/{id}/status", { params: { path: { id: data.id } }, body: { retired } })),
    onSuccess: (answer) => {
      cache.setQueryData(["snippet", data.id], answer);
      return cache.invalidateQueries({ queryKey: ["snippets"] });
    },
  });
  if (!data.govern.allowed) {
    return null;
  }
  const alike = all.data?.filter((s) => s.type === data.snippet.type && s.id !== data.id && !s.retired) ?? [];
  return (
    <section>
      <h3>Status</h3>
      <p>
        {data.retired ? "Retired: it is not offered any more. " : "Offered to authors. "}
        <button type="button" className="plain underlined" disabled={retire.isPending} onClick={() => retire.mutate(!data.retired)}>
          {data.retired ? "Restore" : "Retire"}
        </button>
      </p>
      {(alike.length > 0 || heir) && (
        <NativeSelect
          label="Use another wherever it stands"
          size="xs"
          value={heir}
          onChange={(e) => setHeir(e.currentTarget.value)}
          data={[{ value: "", label: "No other: itself" }, ...alike.map((s) => ({ value: s.key, label: s.name }))]}
        />
      )}
      {retire.error && <p role="alert">{retire.error.message}</p>}
    </section>
  );
}
