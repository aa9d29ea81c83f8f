import { useQuery } from "@tanstack/react-query";
import { type ComponentProps, useMemo } from "react";
import { api, ask } from "../../../api/client";
import type { ProofView } from "../../../api/types";
import type { Desk } from "../DeskStore";
import { useDeskContext } from "../useDesk";
import { ProofFrame } from "./ProofFrame";

type Look = Omit<ComponentProps<typeof ProofFrame>, "width" | "label">;

/** Both proofs as some clients would show them. The server simulates; this only lays it out. */
export function SimulatedProofs({ view, phone, width, ...look }: Look & { view: ProofView; phone: number; width: number }) {
  const { store } = useDeskContext();
  const desk = look.state.desk as Desk;
  const viewed = useQuery({
    queryKey: ["view", store.kind, desk.id, view, desk.revision, desk.styleVersion],
    placeholderData: (former) => former,
    queryFn: () =>
      ask(
        api.GET(`/api/${store.kind}/{id}/draft/view` as "/api/emails/{id}/draft/view", {
          params: { path: { id: desk.id }, query: { view } },
        }),
      ),
  });
  const state = useMemo(() => {
    const html = new Map(viewed.data?.rows.map((r) => [r.id, r.html]));
    return {
      ...look.state,
      desk: { ...desk, opening: viewed.data?.opening ?? desk.opening },
      rows: new Map([...look.state.rows].map(([id, row]) => [id, { ...row, html: html.get(id) ?? row.html }])),
    };
  }, [look.state, desk, viewed.data]);
  return viewed.data ? (
    <>
      <ProofFrame {...look} state={state} width={width} label="Desktop" />
      <ProofFrame {...look} state={state} width={phone} label="Phone" />
    </>
  ) : null;
}
