import { Button, Checkbox, NativeSelect } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { queries } from "../../api/queries";
import type { SnippetEntry } from "../../api/types";
import { countOf, momentOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import { Pending } from "../../shared/Pending";
import { SearchField } from "../../shared/SearchField";
import { useCampaignTypes } from "../../shared/useCampaignTypes";
import { useFreshNodes } from "../nodes/nodeOffers";
import { useIsEverywhere } from "../session/useSession";
import { SnippetEditor } from "./SnippetEditor";
import classes from "./SnippetsRoom.module.css";
import { typeLabel, types } from "./snippetTypes";

const NewSnippetDialog = lazily(() => import("./NewSnippetDialog"));

/** What is said once and shown in many emails: the list, and what the chosen one says when. */
export default function SnippetsRoom() {
  const { id } = useParams();
  const go = useNavigate();
  const makes = useIsEverywhere("lead", "designer");
  const all = useQuery(queries.snippets);
  const campaignTypes = useCampaignTypes();
  const [words, setWords] = useState("");
  const [type, setType] = useState("");
  const [campaign, setCampaign] = useState("");
  const [retired, setRetired] = useState(false);
  const [making, setMaking] = useState(false);
  useFreshNodes();
  const sought = words.trim().toLowerCase();
  const shown =
    all.data?.filter(
      (s) =>
        (retired || !s.retired || s.id === id) &&
        (!type || s.type === type) &&
        (!campaign || s.campaignTypes.length === 0 || s.campaignTypes.map(campaignTypes.current).includes(campaign)) &&
        `${s.name} ${s.key} ${s.description} ${s.words}`.toLowerCase().includes(sought),
    ) ?? [];
  const first = shown[0]?.id;
  // Beside what stands here already: a dialog that is open keeps what was typed in it.
  useEffect(() => {
    if (!id && first) {
      go(`/snippets/${first}`, { replace: true });
    }
  }, [id, first, go]);
  return (
    <div className={classes.room}>
      <title>Snippets · Golden Rule</title>
      <section className={classes.list} aria-label="Snippets">
        <header className={classes.head}>
          <h1>Snippets</h1>
          {makes && (
            <Button variant="default" size="xs" onClick={() => setMaking(true)}>
              New snippet
            </Button>
          )}
        </header>
        <div className={classes.find}>
          <SearchField label="Find snippets" placeholder="Find by name or words" value={words} onChange={setWords} />
          <div className={classes.filters}>
            <NativeSelect
              aria-label="Type"
              size="xs"
              value={type}
              onChange={(e) => setType(e.currentTarget.value)}
              data={[{ value: "", label: "All types" }, ...types.map((t) => ({ value: t.type, label: t.label }))]}
            />
            <NativeSelect
              aria-label="Campaign type"
              size="xs"
              value={campaign}
              onChange={(e) => setCampaign(e.currentTarget.value)}
              data={[{ value: "", label: "All campaign types" }, ...campaignTypes.listed]}
            />
          </div>
          {all.data?.some((s) => s.retired) && (
            <Checkbox size="xs" label="Show retired ones" checked={retired} onChange={(e) => setRetired(e.currentTarget.checked)} />
          )}
        </div>
        <Pending query={all} what="The snippets" />
        <ul className={classes.entries}>
          {shown.map((entry) => (
            <li key={entry.id}>
              <Link to={`/snippets/${entry.id}`} className={classes.entry} aria-current={entry.id === id ? "page" : undefined}>
                <span className={classes.name}>{entry.name}</span>
                <span className={classes.type}>{typeLabel(entry.type).toLowerCase()}</span>
                <Standing entry={entry} />
              </Link>
            </li>
          ))}
        </ul>
        {all.data && shown.length === 0 && (
          <p className={classes.empty}>
            {all.data.length > 0
              ? "None of them fits. Look for other words, or for all types."
              : "A snippet is a sentence, a date or a link that recurs in many emails: said once here, and right everywhere. Make the first one."}
          </p>
        )}
      </section>
      {id ? <SnippetEditor key={id} id={id} /> : <div />}
      {making && (
        <NewSnippetDialog
          onClose={() => setMaking(false)}
          onMade={(made) => {
            setMaking(false);
            go(`/snippets/${made}`);
          }}
        />
      )}
    </div>
  );
}

function Standing({ entry }: { entry: SnippetEntry }) {
  const places = entry.places === 0 ? "not used yet" : countOf(entry.places, "place");
  if (entry.retired) {
    return <span className={classes.note}>retired, {places}</span>;
  }
  if (entry.expired) {
    return (
      <span className={classes.note} data-expired={entry.places > 0}>
        {entry.places > 0 && "■ "}expired, {entry.places > 0 ? `still in ${places}` : places}
      </span>
    );
  }
  return (
    <span className={classes.note}>
      {places}
      {entry.nextFrom ? `, changes ${momentOf(entry.nextFrom)}` : entry.expires && `, until ${momentOf(entry.expires)}`}
    </span>
  );
}
