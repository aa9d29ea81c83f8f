import type { CheckGroup } from "../../api/types";

export const groups: Record<CheckGroup, string> = {
  brand: "Brand",
  reading: "Reading",
  "law-and-delivery": "Law and delivery",
  copy: "Copy",
  clients: "Mail clients",
  structure: "Structure",
};

/** A share of readers, 0 to 1, as people say it. */
export const ofAHundred = (share: number) => (share === 0 ? "none" : share < 0.01 ? "under 1 of 100" : `${Math.round(share * 100)} of 100`);
