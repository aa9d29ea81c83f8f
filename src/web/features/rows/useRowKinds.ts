import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";

/** The row kinds as the lead plans them, in the order an email has them. */
export function useRowKinds() {
  const { data } = useQuery(queries.rowKinds);
  const all = data ?? [];
  /** The kind that stands in its place now. */
  const current = (key: string): string => {
    const into = all.find((k) => k.key === key)?.mergedInto;
    return into ? current(into) : key;
  };
  const offered = all.filter((k) => !k.retired && !k.mergedInto).map((k) => ({ value: k.key, label: k.name }));
  return {
    current,
    nameOf: (key: string) => all.find((k) => k.key === current(key))?.name ?? key,
    /** To choose one from. */
    offered,
    /** What a new row is of, where nothing says it. */
    usual: (offered.find((k) => k.value === "main") ?? offered[0])?.value ?? "main",
    /** To choose one from where one is chosen that is perhaps not offered any more. */
    offeredWith: (key: string) => {
      const kept = all.find((k) => k.key === current(key));
      return kept?.retired ? [...offered, { value: kept.key, label: `${kept.name}, retired` }] : offered;
    },
  };
}
