import { type ComponentProps, useMemo } from "react";
import type { Desk } from "../DeskStore";
import { ProofFrame } from "./ProofFrame";

type Look = Omit<ComponentProps<typeof ProofFrame>, "width" | "label">;

/** Both proofs otherwise than as they are written: as some clients show them, or as one reader gets them. The server makes them. */
export function ViewedProofs({ viewed, phone, width, ...look }: Look & { viewed?: Viewed; phone: number; width: number }) {
  const desk = look.state.desk as Desk;
  const state = useMemo(() => {
    const html = new Map(viewed?.rows.map((r) => [r.id, r.html]));
    return {
      ...look.state,
      desk: { ...desk, proof: { ...desk.proof, opening: viewed?.opening ?? desk.proof.opening } },
      // Of what is shown to some readers, what is not there this one does not see.
      rows: new Map(
        [...look.state.rows].flatMap(([id, row]) =>
          row.condition && !html.has(id) ? [] : [[id, { ...row, html: html.get(id) ?? row.html }] as const],
        ),
      ),
    };
  }, [look.state, desk, viewed]);
  return viewed ? (
    <>
      <ProofFrame {...look} state={state} width={width} label="Desktop" />
      <ProofFrame {...look} state={state} width={phone} label="Phone" />
    </>
  ) : null;
}

interface Viewed {
  opening: string;
  rows: { id: string; html: string }[];
}
