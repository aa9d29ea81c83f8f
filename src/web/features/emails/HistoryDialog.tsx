import { Button, Modal } from "@mantine/core";
import { useInfiniteQuery, useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { clockTime } from "../../shared/format";
import type { Desk } from "../desk/DeskStore";
import { useDeskContext } from "../desk/useDesk";
import { BeforeAfter } from "./BeforeAfter";
import classes from "./HistoryDialog.module.css";

/** What was done, by whom and when; each moment can be looked at and gone back to. */
export default function HistoryDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const { store } = useDeskContext();
  const params = { path: { id: desk.id } };
  const history = useInfiniteQuery({
    queryKey: ["history", desk.id, desk.revision],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) => ask(api.GET("/api/emails/{id}/history", { params: { ...params, query: { before: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (former) => former,
  });
  const steps = history.data?.pages.flatMap((p) => p.steps) ?? [];
  const [chosen, setChosen] = useState<number>();
  const shown = chosen ?? steps[0]?.revision ?? 0;
  const back = useMutation({
    mutationFn: () => ask(api.GET("/api/emails/{id}/history/{revision}/way-back", { params: { path: { id: desk.id, revision: shown } } })),
    onSuccess: ({ edits, refused }) => {
      if (edits.length > 0) {
        store.edit(...edits);
      }
      store.say(
        edits.length === 0
          ? "It stands like that already."
          : refused.length > 0
            ? `Gone back, but for what you may not change: ${refused.join(" ")}`
            : "Gone back. Undo takes you forward again.",
      );
      onClose();
    },
  });
  return (
    <Modal opened onClose={onClose} title="History" size={1120} closeButtonProps={{ "aria-label": "Close" }}>
      <div className={classes.history}>
        <ol className={classes.steps}>
          {steps.map((step) => (
            <li key={step.revision}>
              <button type="button" className="plain" aria-current={step.revision === shown} onClick={() => setChosen(step.revision)}>
                <span className={classes.words}>{step.undoes ? `took back: ${step.words}` : step.words}</span>
                <span className="soft">
                  {step.author}, {clockTime(step.at)}
                </span>
              </button>
            </li>
          ))}
          <li>
            {history.hasNextPage ? (
              <button type="button" className="plain underlined" onClick={() => history.fetchNextPage()}>
                Further back
              </button>
            ) : (
              <button type="button" className="plain" aria-current={shown === 0} onClick={() => setChosen(0)}>
                <span className={classes.words}>As it was started</span>
              </button>
            )}
          </li>
        </ol>
        <div>
          <BeforeAfter
            before={{ name: "As it was then", src: `/api/emails/${desk.id}/history/${shown}/html` }}
            after={{ name: "As it is now", src: `/api/emails/${desk.id}/html?proof=true&revision=${desk.revision}` }}
          />
          {back.error && <p role="alert">{back.error.message}</p>}
          <Button loading={back.isPending} disabled={shown === desk.revision} onClick={() => back.mutate()}>
            Restore this version
          </Button>
        </div>
      </div>
    </Modal>
  );
}
