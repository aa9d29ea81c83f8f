import { type ComponentType, type ReactNode, useEffect, useState } from "react";
import { NotFetched } from "./Pending";

const againAfter = 1500;

export type Part<P> = ComponentType<P> & { fetch: () => Promise<unknown>; isHere: () => boolean };

/**
 * A part of the interface that is fetched when it is needed, or before by `fetch`. Out of reach it says so and is asked for again. It
 * is drawn as soon as it is here: what React itself waits for it holds back for 300 ms, and leaves the room before standing meanwhile,
 * open to presses that were meant for the next.
 * @param meanwhile What stands in its place until it is here.
 */
export function lazily<P extends object>(load: () => Promise<{ default: ComponentType<P> }>, meanwhile?: ReactNode): Part<P> {
  let here: ComponentType<P> | undefined;
  const fetch = async (isWanted = () => true, onFault?: () => void) => {
    while (!here && isWanted()) {
      try {
        here = (await load()).default;
      } catch {
        onFault?.();
        await new Promise((resolve) => setTimeout(resolve, againAfter));
      }
    }
  };
  const part = (props: P) => {
    const [Shown, show] = useState(() => here);
    const [failed, setFailed] = useState(false);
    useEffect(() => {
      let left = false;
      if (!Shown) {
        void fetch(
          () => !left,
          () => setFailed(true),
        ).then(() => left || show(() => here));
      }
      return () => {
        left = true;
      };
    }, [Shown]);
    return Shown ? <Shown {...props} /> : failed ? <NotFetched /> : meanwhile;
  };
  return Object.assign(part, { fetch: () => fetch(), isHere: () => here !== undefined });
}
