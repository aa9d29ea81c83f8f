import type { DeskAnswer, DeskRow, DeskZone, Finding } from "../../api/types";

/** Desks as the server lays them out, as far as tests look at them. */

export const aRow = (id: string, more: Partial<DeskRow> = {}): DeskRow =>
  ({
    id,
    name: id,
    html: `<table data-row="${id}"><tr><td>${id}</td></tr></table>`,
    move: { allowed: true },
    columns: [],
    ...more,
  }) as unknown as DeskRow;

export const aZone = (id: string, ...rows: string[]) => ({ zone: { id, name: id, rows } as unknown as DeskZone });

export const aFinding = (message: string) => ({ check: "x", message, severity: "warn", place: {} }) as unknown as Finding;

const opening = (name: string) => `<!DOCTYPE html><html lang="en"><head><title>${name}</title></head><body class="pg"><div role="article">`;

export const aDesk = (revision: number, more: Partial<DeskAnswer> = {}): DeskAnswer =>
  ({
    id: "email",
    kind: "email",
    revision,
    whole: true,
    asAuthor: false,
    head: { details: {}, allowance: { allowed: true } },
    order: { items: [], add: { allowed: true } },
    rows: [],
    findings: { before: 0, after: 0, now: [] },
    proof: aProof(opening("An email")),
    ...more,
  }) as unknown as DeskAnswer;

/** @param opening Null: it did not change. */
export const aProof = (opening: string | null) => ({ styleVersion: "1", width: 600, opening }) as DeskAnswer["proof"];

export const anOrder = (...items: object[]) => ({ items, add: { allowed: true } }) as DeskAnswer["order"];

/** A whole desk with these rows in one zone. */
export const deskOf = (revision: number, ...rows: DeskRow[]): DeskAnswer =>
  aDesk(revision, { rows, order: anOrder(aZone("zone", ...rows.map((row) => row.id))) });
