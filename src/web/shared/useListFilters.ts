import { useSearchParams } from "react-router";

/** What a list is narrowed to, kept in the address so that it can be sent to a colleague and is there after going back. */
export function useListFilters() {
  const [search, setSearch] = useSearchParams();
  return {
    of: (name: string) => search.get(name) ?? undefined,
    is: (name: string) => search.get(name) === "yes",
    set: (name: string, value?: string | boolean | null) => {
      const next = new URLSearchParams(search);
      value ? next.set(name, value === true ? "yes" : value) : next.delete(name);
      setSearch(next, { replace: true });
    },
  };
}
