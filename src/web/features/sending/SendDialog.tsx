import { Button, Modal, NativeSelect, NumberInput, SegmentedControl, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { Destination, DrawnSend, SendRequest } from "../../api/types";
import { DayField } from "../../shared/DayField";
import { FileDrop } from "../../shared/FileDrop";
import { countOf, numberOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import classes from "./Sending.module.css";
import { ownZone, timeIn } from "./times";

interface Props {
  handOff: string;
  destinations: Destination[];
  onClose: () => void;
}

/** Whom to send to and in which batches; the plan is drawn before anything is sent. */
export function SendDialog({ handOff, destinations, onClose }: Props) {
  const cache = useQueryClient();
  const id = useRef(newId());
  const [destination, setDestination] = useState(destinations[0]?.id ?? "");
  const to = destinations.find((d) => d.id === destination);
  const [from, setFrom] = useState<"list" | "file">("list");
  const source = to?.hasLists ? from : "file";
  const lists = useQuery(queries.contactLists(to?.hasLists ? destination : ""));
  const [list, setList] = useState("");
  const [file, setFile] = useState<{ id: string; name: string; content: string }>();
  const [rule, setRule] = useState({ size: 200, minutes: 30, dailyGrowth: 0, most: 5000, from: 0, until: 24 });
  const [start, setStart] = useState<"now" | "later">("now");
  const [day, setDay] = useState("");
  const [time, setTime] = useState("10:00");
  const [zone, setZone] = useState(ownZone());
  const request: SendRequest = {
    id: id.current,
    destination,
    rule,
    zone,
    start: start === "later" && day ? `${day}T${time}` : "",
    list: source === "list" ? list || (lists.data?.[0]?.id ?? "") : "",
    file: source === "file" ? file?.content : undefined,
    fileName: file?.name ?? "",
  };
  const ready = source === "list" ? request.list !== "" : file !== undefined;
  // What is typed is drawn once it pauses; until then the plan before it stands, with the lines opened in it.
  const asked = JSON.stringify({ ...request, file: file?.id });
  const [settled] = useDebouncedValue(asked, 400);
  const plan = useQuery({
    queryKey: ["send-plan", handOff, settled],
    enabled: ready,
    retry: false,
    staleTime: 0,
    placeholderData: keepPreviousData,
    queryFn: () => ask(api.POST("/api/hand-offs/{id}/sends/plan", { params: { path: { id: handOff } }, body: request })),
  });
  const drawn = ready && plan.data !== undefined && settled === asked && !plan.isFetching;
  const send = useMutation({
    mutationFn: () => ask(api.POST("/api/hand-offs/{id}/sends", { params: { path: { id: handOff } }, body: request })),
    onSuccess: (answer) => {
      cache.setQueryData(queries.sending(handOff).queryKey, answer);
      onClose();
    },
  });
  const set = (part: Partial<typeof rule>) => setRule({ ...rule, ...part });
  const number = (label: string, key: keyof typeof rule, min: number, max: number, suffix = "") => (
    <NumberInput
      label={label}
      min={min}
      max={max}
      allowDecimal={false}
      suffix={suffix}
      value={rule[key]}
      onChange={(value) => set({ [key]: Number(value) || 0 })}
    />
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate();
  };
  return (
    <Modal opened onClose={onClose} title="Send in batches" size={680} closeButtonProps={{ "aria-label": "Close" }}>
      <form onSubmit={submit} className={classes.form}>
        <div className={classes.pair}>
          <NativeSelect
            label="By"
            value={destination}
            onChange={(e) => setDestination(e.currentTarget.value)}
            data={destinations.map((d) => ({ value: d.id, label: d.name }))}
          />
          {to?.hasLists && (
            <SegmentedControl
              aria-label="Where the list is"
              value={from}
              onChange={(value) => setFrom(value as "list" | "file")}
              data={[
                { value: "list", label: "A list there" },
                { value: "file", label: "A file" },
              ]}
            />
          )}
        </div>
        {source === "list" && (
          <>
            <NativeSelect
              label="List"
              value={request.list}
              onChange={(e) => setList(e.currentTarget.value)}
              data={(lists.data ?? []).map((l) => ({ value: l.id, label: `${l.name}, ${countOf(l.contacts, "contact")}` }))}
            />
            {lists.error && <p role="alert">■ {lists.error.message}</p>}
          </>
        )}
        {source === "file" && (
          <FileDrop label="A list as CSV" accept={["text/csv"]} onFiles={(files) => void read(files[0])} className={classes.drop}>
            {(choose) => (
              <>
                <Button variant="default" size="xs" onClick={choose}>
                  Choose a file
                </Button>
                <span className="soft">
                  {file?.name ?? "CSV with a column “Email”, others by the names of your fields. Up to 50,000 lines."}
                </span>
              </>
            )}
          </FileDrop>
        )}
        <div className={classes.four}>
          {number("Readers in a batch", "size", 1, 5000)}
          {number("Minutes between", "minutes", 1, 10080)}
          {number("More each day", "dailyGrowth", 0, 200, " %")}
          {number("But at most", "most", 1, 5000)}
        </div>
        <div className={classes.four}>
          {number("Not before hour", "from", 0, 23)}
          {number("Not after hour", "until", 1, 24)}
          <NativeSelect
            label="Begins"
            value={start}
            onChange={(e) => setStart(e.currentTarget.value as "now" | "later")}
            data={[
              { value: "now", label: "at once" },
              { value: "later", label: "at a moment" },
            ]}
          />
        </div>
        {start === "later" && (
          <div className={classes.three}>
            <DayField label="Day" value={day} onChange={setDay} />
            <TextInput label="Time" type="time" value={time} onChange={(e) => setTime(e.currentTarget.value)} />
            <NativeSelect
              label="Time zone"
              value={zone}
              onChange={(e) => setZone(e.currentTarget.value)}
              data={[...new Set([ownZone(), ...Intl.supportedValuesOf("timeZone")])]}
            />
          </div>
        )}
        <div role="status" className={classes.plan}>
          {plan.data && ready && <Drawn plan={plan.data} zone={zone} />}
          {plan.isFetching && !plan.data && <p className="soft">The plan is drawn…</p>}
          {!ready && <p className="soft">Choose whom to send to: the plan is drawn here before anything is sent.</p>}
        </div>
        {(plan.error ?? send.error) && <p role="alert">■ {(plan.error ?? send.error)?.message}</p>}
        <Button type="submit" loading={send.isPending} disabled={!drawn || !plan.data?.recipients || (start === "later" && !day)}>
          {start === "now" ? "Send" : "Plan to send"} to {countOf(plan.data?.recipients ?? 0, "reader")}
        </Button>
      </form>
    </Modal>
  );

  async function read(chosen?: File) {
    if (chosen) {
      const bytes = new Uint8Array(await chosen.arrayBuffer());
      let text = "";
      for (let i = 0; i < bytes.length; i += 0x8000) {
        text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
      }
      setFile({ id: newId(), name: chosen.name, content: btoa(text) });
    }
  }
}

const reasons = { broken: "cannot be read", twice: "stand there twice", role: "are addresses of roles" };

function Drawn({ plan, zone }: { plan: DrawnSend; zone: string }) {
  const [first, last] = [plan.batches[0], plan.batches.at(-1)];
  const out = Object.entries(plan.counts) as [keyof typeof reasons, number][];
  return (
    <>
      <p>
        <b>{countOf(plan.recipients, "reader")}</b> in {countOf(plan.batches.length, "batch", "batches")}
        {first && last && `, from ${timeIn(zone, first.at)} until ${timeIn(zone, last.at)}`}.
      </p>
      {plan.note && <p>▲ {plan.note}</p>}
      {(plan.unsubscribed > 0 || plan.sentBefore > 0) && (
        <p className="soft">
          Left out: {numberOf(plan.unsubscribed)} unsubscribed, {numberOf(plan.sentBefore)} who got it already.
        </p>
      )}
      {plan.charset && plan.charset !== "utf-8" && <p className="soft">The file was read as {plan.charset}.</p>}
      {out.length > 0 && (
        <details>
          <summary>Lines left out: {out.map(([why, count]) => `${numberOf(count)} ${reasons[why]}`).join(", ")}</summary>
          <ul className={classes.lines}>
            {plan.leftOut.map((line) => (
              <li key={line.line}>
                Line {line.line}: {line.message}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
