import type { Role } from "../../api/types";

export const roles: { role: Role; name: string; does: string }[] = [
  { role: "lead", name: "Lead", does: "sets the rules and releases" },
  { role: "designer", name: "Designer", does: "makes rows and templates" },
  { role: "author", name: "Author", does: "writes emails" },
  { role: "reviewer", name: "Reviewer", does: "reads and approves" },
];

export const rolesInWords = (held: Role[]) =>
  roles
    .filter((r) => held.includes(r.role))
    .map((r) => r.name.toLowerCase())
    .join(", ") || "no role";
