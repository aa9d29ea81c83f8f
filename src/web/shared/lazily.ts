import { type ComponentType, type LazyExoticComponent, lazy } from "react";

const againAfter = 1500;

/** A part of the interface that is fetched when it is needed. Out of reach it is asked for again: what is on the screen stays. */
export function lazily<P>(load: () => Promise<{ default: ComponentType<P> }>): LazyExoticComponent<ComponentType<P>> {
  const insist = (): Promise<{ default: ComponentType<P> }> =>
    load().catch(() => new Promise((resolve) => setTimeout(resolve, againAfter)).then(insist));
  return lazy(insist);
}
