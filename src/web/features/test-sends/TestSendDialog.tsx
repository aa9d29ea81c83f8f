import { Button, Checkbox, Modal, MultiSelect, SegmentedControl } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { TestSends } from "../../api/types";
import { countOf, numberOf } from "../../shared/format";
import { newId } from "../../shared/ids";
import { Pending } from "../../shared/Pending";
import { useIs, useSession } from "../session/useSession";
import { LastTests } from "./LastTests";
import classes from "./TestSendDialog.module.css";

interface Props {
  email: string;
  /** Begins with one to whoever is signed in. */
  toMe?: boolean;
  onClose: () => void;
}

/** Sends the email as it is now, to be looked at where it is read. */
export default function TestSendDialog({ email, toMe, onClose }: Props) {
  const tests = useQuery({
    ...queries.testSends(email),
    // As long as one is on its way.
    refetchInterval: ({ state }) => (state.data?.last.some((t) => t.job === "waiting" || t.job === "running") ? 500 : false),
  });
  return (
    <Modal opened onClose={onClose} title="Send a test" size={680} closeButtonProps={{ "aria-label": "Close" }}>
      {!tests.data ? (
        <Pending query={tests} what="The tests" />
      ) : tests.data.sends ? (
        <TestForm email={email} tests={tests.data} toMe={toMe} />
      ) : (
        <p>This server sends no mail. Whoever runs it sets Mail:Host and Mail:From.</p>
      )}
    </Modal>
  );
}

function TestForm({ email, tests, toMe }: { email: string; tests: TestSends; toMe?: boolean }) {
  const cache = useQueryClient();
  const me = useSession().data?.id ?? "";
  const leads = useIs("lead");
  const colleagues = useQuery(queries.people);
  const readers = useQuery(queries.sampleReaders);
  const [mine, setMine] = useState(true);
  const [people, setPeople] = useState<string[]>([]);
  const [testers, setTesters] = useState<string[]>([]);
  const [as, setAs] = useState<string[]>([]);
  const [combinations, setCombinations] = useState(false);
  const [pictures, setPictures] = useState<"linked" | "inside">("linked");
  // Sent again after its answer was lost, it is the same test.
  const id = useRef(newId());
  const send = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/emails/{id}/test-sends", {
          params: { path: { id: email } },
          body: {
            id: id.current,
            people: [...(mine ? [me] : []), ...people],
            testers,
            readers: as,
            combinations,
            picturesInside: pictures === "inside",
          },
        }),
      ),
    onSuccess: (answer) => {
      id.current = newId();
      cache.setQueryData(queries.testSends(email).queryKey, answer);
    },
  });
  const begun = useRef(false);
  useEffect(() => {
    if (toMe && !begun.current) {
      begun.current = true;
      send.mutate();
    }
  }, [toMe, send.mutate]);
  const ways = Math.max(1, as.length + (combinations ? tests.combinations.length : 0));
  const messages = ((mine ? 1 : 0) + people.length + testers.length) * ways;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate();
  };
  return (
    <form onSubmit={submit} className={classes.form}>
      <fieldset className={classes.part}>
        <legend>To</legend>
        <Checkbox label="Me" checked={mine} onChange={(e) => setMine(e.currentTarget.checked)} />
        {tests.toOthers.allowed ? (
          <>
            <MultiSelect
              label="Colleagues"
              searchable
              value={people}
              onChange={setPeople}
              data={(colleagues.data ?? []).filter((p) => p.id !== me).map((p) => ({ value: p.id, label: p.name }))}
              comboboxProps={{ withinPortal: true }}
            />
            <MultiSelect
              label="Testers"
              description={
                tests.testers.length === 0 ? "There are none yet. Leads name them, in People." : "Whom leads have named, in People."
              }
              searchable
              value={testers}
              onChange={setTesters}
              data={tests.testers.map((t) => ({ value: t.id, label: `${t.name}, ${t.address}` }))}
              comboboxProps={{ withinPortal: true }}
            />
            {leads && tests.testers.length === 0 && (
              <Link to="/people/testers" className="underlined">
                Name testers
              </Link>
            )}
          </>
        ) : (
          <p className="soft">{tests.toOthers.reason}</p>
        )}
      </fieldset>
      <fieldset className={classes.part}>
        <legend>As</legend>
        <MultiSelect
          label="Sample readers"
          description="Each in a message of its own. Nobody: fields say their samples."
          searchable
          maxValues={10}
          value={as}
          onChange={setAs}
          data={(readers.data ?? []).map((r) => ({ value: r.id, label: r.name }))}
          comboboxProps={{ withinPortal: true }}
        />
        {tests.combinations.length > 0 && (
          <Checkbox
            label={
              tests.allCombinations === tests.combinations.length
                ? `Every combination of what readers see, ${numberOf(tests.combinations.length)}`
                : `The first ${numberOf(tests.combinations.length)} combinations of what readers see, of ${
                    tests.allCombinations == null ? "very many" : numberOf(tests.allCombinations)
                  }`
            }
            checked={combinations}
            onChange={(e) => setCombinations(e.currentTarget.checked)}
          />
        )}
        <SegmentedControl
          size="xs"
          aria-label="Pictures"
          data={[
            { value: "linked", label: "Pictures linked" },
            { value: "inside", label: "Pictures inside" },
          ]}
          value={pictures}
          onChange={(v) => setPictures(v as typeof pictures)}
        />
      </fieldset>
      {send.error && <p role="alert">■ {send.error.message}</p>}
      <p className={classes.acts}>
        <Button type="submit" loading={send.isPending} disabled={messages === 0 || messages > tests.left}>
          Send {countOf(messages, "message")}
        </Button>
        <span className="soft">{countOf(tests.left, "more", "more")} within the hour. The subject says that it is a test.</span>
      </p>
      <LastTests tests={tests.last} />
    </form>
  );
}
