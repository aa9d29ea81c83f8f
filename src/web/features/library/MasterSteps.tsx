import { Steps } from "../../shared/Steps";
import { blocksOf, type Desk, type DeskState } from "../desk/DeskStore";
import { useSession } from "../session/useSession";

/** What is done first with a new row or template, until it has a release. */
export function MasterSteps({ state }: { state: DeskState }) {
  const person = useSession().data;
  const desk = state.desk as Desk;
  if (!person || !desk.about || desk.about.release > 0 || desk.asAuthor) {
    return null;
  }
  return (
    <Steps
      title={desk.kind === "row" ? "First steps with a row" : "First steps with a template"}
      name={`${desk.kind}-steps/${person.id}`}
      all={desk.kind === "row" ? rowSteps(state) : templateSteps(desk)}
    />
  );
}

function rowSteps({ rows }: DeskState) {
  const blocks = [...rows.values()].flatMap(blocksOf);
  const rules = blocks.flatMap((b) => b.rules ?? []);
  return [
    { name: "Add a block: press / or click where it goes", done: blocks.length > 0 },
    {
      name: "Say what authors write, and how much: Rules",
      done: rules.some((r) => r.instruction != null || Object.keys(r.limits).length > 0),
    },
    { name: "Lock what must stay: Rules", done: rules.some((r) => r.locks.some((l) => l.own !== null)) },
    { name: "See it as an author, then release it", done: false },
  ];
}

function templateSteps({ order }: Desk) {
  const zones = order.items.flatMap((item) => item.zone ?? []);
  return [
    { name: "Add the rows that every email has: press /", done: order.items.some((item) => item.row) },
    { name: "Add a zone where authors put rows", done: zones.length > 0 },
    {
      name: "Choose which rows the zone takes",
      done: zones.some((z) => (z.terms?.accepts?.length ?? 0) > 0 || (z.terms?.rows?.length ?? 0) > 0),
    },
    { name: "See it as an author, then release it", done: false },
  ];
}
