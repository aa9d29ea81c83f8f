import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import type { ExplainedValue } from "../../api/types";
import { choiceOf, countOf } from "../../shared/format";
import { useIs } from "../session/useSession";
import type { Desk } from "./DeskStore";
import { useDeskContext } from "./useDesk";
import classes from "./WhySheet.module.css";

const kinds: Record<ExplainedValue["kind"], string> = {
  words: "",
  variable: "brand variable",
  snippet: "snippet",
  field: "field",
  look: "look",
  lock: "who may change it",
  limit: "limit",
};

const aspects: Record<string, string> = {
  Place: "Moving and removing the row",
  Arrangement: "Adding and moving blocks",
  Content: "What it says",
  Look: "How it looks",
};

type Layer = ExplainedValue["layers"][number];

/** Where a layer is said: the room that it can be opened in. */
const placeOf: Record<Layer["place"], ((layer: Layer, value: ExplainedValue) => string) | undefined> = {
  none: undefined,
  row: (layer) => `/rows/${layer.id}`,
  template: (layer) => `/templates/${layer.id}`,
  "house-style": (layer) => `/house-style/${layer.id}`,
  snippet: (layer) => `/snippets/${layer.id}`,
  fields: () => "/readers",
};

/** Why each value of what is chosen is as it is: who says what, from the outermost layer to the one that holds. */
export function WhySheet({ desk, row, name }: { desk: Desk; row?: string; name: string }) {
  const { store, choice } = useDeskContext();
  const why = useQuery({
    queryKey: ["why", desk.id, row, desk.revision, desk.proof.styleVersion],
    placeholderData: (former, query) => (query?.queryKey[2] === row ? former : undefined),
    queryFn: () =>
      ask(api.GET(`/api/${store.kind}/{id}/why` as "/api/emails/{id}/why", { params: { path: { id: desk.id }, query: { row } } })),
  });
  const sheet = useRef<HTMLElement>(null);
  // Whoever writes in a field sees why of that one first.
  const at = choice.piece;
  useEffect(() => {
    if (at && why.data) {
      sheet.current?.querySelector(`[data-piece="${CSS.escape(at)}"]`)?.scrollIntoView({ block: "start" });
    }
  }, [at, why.data]);
  if (why.error) {
    return <p role="alert">■ {why.error.message}</p>;
  }
  const all = why.data ?? [];
  const pieces = [...new Set(all.map((value) => value.piece))].map((piece) => ({ piece, values: all.filter((v) => v.piece === piece) }));
  return (
    <section aria-label={`${name}, why`} ref={sheet} className={classes.why}>
      <h2>{name}</h2>
      <p className="soft">Who says what, from the outermost layer inwards. The last one holds; of locks the tightest.</p>
      {why.data?.length === 0 && <p>Nothing is said from elsewhere here.</p>}
      {pieces.map(({ piece, values }) => (
        <section key={piece} data-piece={piece}>
          <h3>{values[0]?.pieceName}</h3>
          <Values values={values.filter((v) => !isUsual(v))} />
          {values.some(isUsual) && (
            <details>
              <summary>{countOf(values.filter(isUsual).length, "value")} as usual: nobody says anything else</summary>
              <Values values={values.filter(isUsual)} />
            </details>
          )}
        </section>
      ))}
    </section>
  );
}

/** Whether only what holds where nobody says anything has spoken. */
const isUsual = ({ layers }: ExplainedValue) => layers.length === 1 && layers[0]?.place === "none" && layers[0].layer === "As usual";

const wordsOf = (value: ExplainedValue, said: string) => (value.kind === "look" ? choiceOf(said) : said) || "nothing";

function Values({ values }: { values: ExplainedValue[] }) {
  return (
    <dl>
      {values.map((value) => (
        <div key={`${value.kind}/${value.field}/${value.name}`}>
          <dt>
            {value.kind === "lock" ? aspects[value.name] : value.name}
            {kinds[value.kind] && <span className="soft"> {kinds[value.kind]}</span>}
          </dt>
          <dd>
            <ol>
              {value.layers.map((layer, at) => (
                <li key={layer.layer} data-holds={at === value.layers.findLastIndex((l) => l.value === value.value)}>
                  <Said layer={layer} value={value} /> <span>{wordsOf(value, layer.value)}</span>
                </li>
              ))}
              {value.layers.at(-1)?.value !== value.value && (
                <li data-holds>
                  <span className="soft">comes to</span> <span>{wordsOf(value, value.value)}</span>
                </li>
              )}
            </ol>
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Said({ layer, value }: { layer: Layer; value: ExplainedValue }) {
  // Drafts of the library are opened by those who make it.
  const makes = useIs("lead", "designer");
  const to = placeOf[layer.place]?.(layer, value);
  return to && (makes || (layer.place !== "row" && layer.place !== "template")) ? (
    <Link to={to} className="underlined">
      {layer.layer}
    </Link>
  ) : (
    <span className="soft">{layer.layer}</span>
  );
}
