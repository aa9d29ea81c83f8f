interface Props<T> {
  name: string;
  /** All of them, as they stand. */
  keys: T[];
  /** Where this one stands. */
  at: number;
  onOrder: (next: T[], before: T[]) => void;
}

/** Moves one of a list up or down. */
export function OrderButtons<T>({ name, keys, at, onOrder }: Props<T>) {
  const move = (by: -1 | 1) => {
    const next = [...keys];
    const [taken] = next.splice(at, 1) as [T];
    next.splice(at + by, 0, taken);
    onOrder(next, keys);
  };
  return (
    <>
      <button type="button" className="plain" aria-label={`Move ${name} up`} disabled={at === 0} onClick={() => move(-1)}>
        ↑
      </button>
      <button type="button" className="plain" aria-label={`Move ${name} down`} disabled={at === keys.length - 1} onClick={() => move(1)}>
        ↓
      </button>
    </>
  );
}
