import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api, ask } from "../../api/client";
import { dateAndTimeOf } from "../../shared/format";
import type { Desk } from "../desk/DeskStore";
import { useDeskContext } from "../desk/useDesk";
import { usePlannedRelease } from "./usePlannedRelease";

/** When the next release is made by itself, or why it was not; and withdrawing it. */
export function PlannedRelease({ desk }: { desk: Desk }) {
  const { store } = useDeskContext();
  const cache = useQueryClient();
  const { data: planned } = usePlannedRelease(desk);
  const withdraw = useMutation({
    mutationFn: () =>
      ask(
        api.DELETE(`/api/${store.kind}/{id}/planned-release` as "/api/templates/{id}/planned-release", {
          params: { path: { id: desk.id } },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["planned-release", desk.id] }),
  });
  // Once there is none any more it was made: the desk shows which release that is.
  const was = useRef(false);
  useEffect(() => {
    if (was.current && planned === null) {
      void store.refresh();
    }
    was.current = planned != null;
  }, [planned, store]);
  if (!planned) {
    return null;
  }
  return (
    <span role="status">
      {planned.problem
        ? `The release planned for ${dateAndTimeOf(planned.at)} was not made. ${planned.problem}`
        : planned.draftChanged
          ? `The draft was changed after its release was planned for ${dateAndTimeOf(planned.at)}: it will not be made. Plan it anew.`
          : `Release planned for ${dateAndTimeOf(planned.at)} by ${planned.by}`}{" "}
      <button type="button" className="plain underlined" onClick={() => withdraw.mutate()}>
        {planned.problem ? "Dismiss" : "Withdraw"}
        <span className="only-heard"> the planned release</span>
      </button>
      {withdraw.error && <span role="alert"> {withdraw.error.message}</span>}
    </span>
  );
}
