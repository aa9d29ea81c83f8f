// What the measurements in the browser share.
import { createRequire } from "node:module";
import { chromiumOptions } from "../browser/chromium.mjs";

const { chromium } = createRequire(new URL("../browser/package.json", import.meta.url))("@playwright/test");

/** A browser as the tests start it, and a window of 1280 by 800. */
export async function launch() {
  const browser = await chromium.launch(chromiumOptions);
  return { browser, context: await browser.newContext({ viewport: { width: 1280, height: 800 } }) };
}

/** Median and 95th percentile of times in milliseconds, without the first ones. */
export function percentiles(times, warmUp) {
  const sorted = times.slice(warmUp).sort((a, b) => a - b);
  const at = (share) => sorted[Math.floor((sorted.length - 1) * share)];
  return { count: sorted.length, p50: at(0.5), p95: at(0.95) };
}

/** Medians of the requests that carried edits, without the first ones: where the time between the two ends goes. */
export const editRequests = (page, warmUp) =>
  page.evaluate((first) => {
    const r = performance
      .getEntriesByType("resource")
      .filter((e) => e.name.endsWith("/edits"))
      .slice(first);
    const m = (f) => r.map(f).sort((a, b) => a - b)[Math.floor(r.length / 2)];
    return {
      n: r.length,
      duration: m((e) => e.duration),
      ttfb: m((e) => e.responseStart - e.requestStart),
      wait: m((e) => e.requestStart - e.startTime),
      size: m((e) => e.transferSize),
      decoded: m((e) => e.decodedBodySize),
    };
  }, warmUp);
