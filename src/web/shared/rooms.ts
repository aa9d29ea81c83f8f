/** The room that documents of a kind stand in: the first part of their address. */
export const rooms = {
  email: "emails",
  template: "templates",
  row: "rows",
  "house-style": "house-style",
  snippet: "snippets",
  audiences: "readers",
} as const;
