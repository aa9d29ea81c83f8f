import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { TestSend } from "../../api/types";
import { clockTime, countOf } from "../../shared/format";
import classes from "./TestSendDialog.module.css";

const states = {
  waiting: "waiting",
  sending: "being sent",
  sent: "✓ sent",
  refused: "■ refused",
  unsubscribed: "",
  unknown: "▲ not known",
};

/** What became of each message of the last tests. */
export function LastTests({ tests }: { tests: TestSend[] }) {
  return tests.length === 0 ? null : (
    <section aria-label="Last tests" className={classes.last}>
      {tests.map((test) => (
        <Test key={test.id} test={test} />
      ))}
    </section>
  );
}

function Test({ test }: { test: TestSend }) {
  const cache = useQueryClient();
  const stop = useMutation({
    mutationFn: () => ask(api.DELETE("/api/jobs/{id}", { params: { path: { id: test.id } } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["test-sends"] }),
  });
  const under = test.job === "waiting" || test.job === "running";
  const done = test.messages.filter((m) => m.state !== "waiting" && m.state !== "sending").length;
  return (
    <table className={classes.results}>
      <caption>
        {test.askedBy.name}, {clockTime(test.askedAt)}, {countOf(test.messages.length, "message")}
        {test.picturesInside && ", pictures inside"}
        {under && (
          <>
            {" "}
            <progress aria-label="Sending the test" value={done / test.messages.length} max={1} />{" "}
            <button type="button" className="plain underlined" onClick={() => stop.mutate()}>
              Stop
            </button>
          </>
        )}
        {test.job === "stopped" && ", stopped"}
      </caption>
      <thead className="only-heard">
        <tr>
          <th scope="col">Address</th>
          <th scope="col">As</th>
          <th scope="col">What came of it</th>
        </tr>
      </thead>
      <tbody>
        {test.messages.map((message) => (
          <tr key={`${message.address}/${message.seen}`} data-state={message.state}>
            <td>{message.address}</td>
            <td>{message.seen || <span className="soft">nobody in particular</span>}</td>
            <td>
              {test.job === "stopped" && message.state === "waiting" ? "not sent" : states[message.state]}
              {message.answer && message.state !== "sent" && <span className="soft"> {message.answer}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
