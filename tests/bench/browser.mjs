// What the measurements in the browser share.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { chromiumOptions } from "../browser/chromium.mjs";

const { chromium } = createRequire(new URL("../browser/package.json", import.meta.url))("@playwright/test");

/** A browser as the tests start it, and a window of 1280 by 800. */
export async function launch() {
  const browser = await chromium.launch(chromiumOptions);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  // A page keeps the times of 250 requests unless told otherwise.
  await context.addInitScript(() => performance.setResourceTimingBufferSize(10_000));
  return { browser, context };
}

const rounds = 5;

/** Ticks of the machine's processors so far, and those that other machines on the same hardware took of them (proc_stat(5), "steal"). */
function processors() {
  const ticks = readFileSync("/proc/stat", "utf8").split("\n", 1)[0].split(/\s+/).slice(1, 9).map(Number);
  return { all: ticks.reduce((sum, one) => sum + one), stolen: ticks[7] };
}

/**
 * The same done in rounds, each the times of its turns in milliseconds: median and 95th percentile of the round in the
 * middle, and the 95th percentiles of all as they came. A machine that others share is slow for seconds at a time, which is
 * not ours: `stolen` says how much of it they took meanwhile, in percent.
 */
export async function inRounds(round) {
  const done = [];
  const before = processors();
  for (let i = 0; i < rounds; i++) {
    done.push(percentiles(await round()));
  }
  const after = processors();
  const stolen = Math.round((100 * (after.stolen - before.stolen)) / (after.all - before.all));
  const inOrder = done.map((d) => Math.round(d.p95));
  done.sort((a, b) => a.p95 - b.p95);
  return { ...done[Math.floor(rounds / 2)], rounds: inOrder, stolen };
}

function percentiles(times) {
  const sorted = times.sort((a, b) => a - b);
  const at = (share) => sorted[Math.floor((sorted.length - 1) * share)];
  return { p50: at(0.5), p95: at(0.95) };
}

export const median = (numbers) => numbers.sort((a, b) => a - b)[Math.floor(numbers.length / 2)];

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
