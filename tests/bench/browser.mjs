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

// A round is calm while others took at most this share of the processors, in percent.
const calm = 3;
const [rounds, mostRounds] = [5, 20];

/** Ticks of the machine's processors so far, and those that other machines on the same hardware took of them (proc_stat(5), "steal"). */
function processors() {
  const ticks = readFileSync("/proc/stat", "utf8").split("\n", 1)[0].split(/\s+/).slice(1, 9).map(Number);
  return { all: ticks.reduce((sum, one) => sum + one), stolen: ticks[7] };
}

/**
 * The same done in rounds, each the times of its turns in milliseconds: median and 95th percentile of the round in the
 * middle, and the 95th percentiles of all that count, as they came. A machine that others share is slow for seconds at a
 * time, which is not ours: rounds are done until five were calm, twenty at the most, and the five calmest count, whatever
 * they measured. `stolen` says how much others took during the worst of these, in percent, `done` how many rounds it took.
 */
export async function inRounds(round) {
  const done = [];
  while (done.length < mostRounds && done.filter((d) => d.stolen <= calm).length < rounds) {
    const before = processors();
    const times = await round();
    const after = processors();
    const stolen = (100 * (after.stolen - before.stolen)) / (after.all - before.all);
    done.push({ ...percentiles(times), stolen });
  }
  const counted = done.toSorted((a, b) => a.stolen - b.stolen).slice(0, rounds);
  const middle = counted.toSorted((a, b) => a.p95 - b.p95)[Math.floor(rounds / 2)];
  return {
    p50: middle.p50,
    p95: middle.p95,
    rounds: done.filter((d) => counted.includes(d)).map((d) => Math.round(d.p95)),
    stolen: Math.round(Math.max(...counted.map((d) => d.stolen))),
    done: done.length,
  };
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
