import { type ComponentType, lazy, useState } from "react";

const againAfter = 1500;

export type Part<P> = ComponentType<P> & { fetch: () => Promise<unknown> };

/**
 * A part of the interface that is fetched when it is needed, or before by `fetch`. Out of reach it is asked for again.
 * Once it is here it is drawn at once: after having waited for a part, React holds what comes back for 300 ms.
 */
export function lazily<P extends object>(load: () => Promise<{ default: ComponentType<P> }>): Part<P> {
  let here: ComponentType<P> | undefined;
  const insist = (): Promise<{ default: ComponentType<P> }> =>
    load().catch(() => new Promise((resolve) => setTimeout(resolve, againAfter)).then(insist));
  const fetch = () =>
    insist().then((part) => {
      here = part.default;
      return part;
    });
  const Waiting = lazy(fetch);
  const part = (props: P) => {
    // One for as long as it stands: another would begin anew and forget what was typed.
    const [Shown] = useState(() => here ?? Waiting);
    return <Shown {...props} />;
  };
  return Object.assign(part, { fetch });
}
