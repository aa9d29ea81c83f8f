import type { SearchHit } from "../../api/types";

/** Somewhere to go. */
export interface Place {
  name: string;
  /** What sort of place it is, and of what. */
  note: string;
  to: string;
  /** Of an email found by the words inside it: some of them. */
  excerpt?: SearchHit["excerpt"];
}

const kinds: Record<SearchHit["kind"], string> = {
  email: "Email",
  template: "Template",
  row: "Saved row",
  "house-style": "House style",
  picture: "Picture",
  variable: "Brand variable",
  snippet: "Snippet",
};

export function placesOf({ kind, id, name, note, houseStyle, excerpt }: SearchHit): Place {
  const to = {
    email: `/emails/${id}`,
    template: `/templates/${id}`,
    row: `/rows/${id}`,
    "house-style": `/house-style/${id}`,
    picture: `/pictures?picture=${id}`,
    variable: `/house-style/${houseStyle}?variable=${id}`,
    snippet: `/snippets/${id}`,
  }[kind];
  return { name, to, excerpt, note: note ? `${kinds[kind]}, ${note}` : kinds[kind] };
}

/** Rooms, and what is begun in them, for those who may. */
export const roomsAndActs = ({ makes, starts }: { makes: boolean; starts: boolean }): Place[] => [
  ...(starts ? [{ name: "Start an email", note: "Act", to: "/start" }] : []),
  ...(makes
    ? [
        { name: "New row", note: "Act", to: "/rows?new=yes" },
        { name: "New template", note: "Act", to: "/templates?new=yes" },
        { name: "Library audit", note: "Act", to: "/checks/audit" },
      ]
    : []),
  { name: "Home", note: "Room", to: "/home" },
  { name: "House style", note: "Room", to: "/house-style" },
  { name: "Coverage", note: "Room", to: "/plan/coverage" },
  { name: "Campaign types", note: "Room", to: "/plan/campaign-types" },
  { name: "Row kinds", note: "Room", to: "/plan/row-kinds" },
  { name: "Teams", note: "Room", to: "/plan/teams" },
  { name: "Rows", note: "Room", to: "/rows" },
  { name: "Snippets", note: "Room", to: "/snippets" },
  { name: "Readers", note: "Room", to: "/readers" },
  { name: "Sample readers", note: "Room", to: "/readers/samples" },
  { name: "Templates", note: "Room", to: "/templates" },
  { name: "Emails", note: "Room", to: "/emails" },
  { name: "Pictures", note: "Room", to: "/pictures" },
  { name: "Checks", note: "Room", to: "/checks" },
];
