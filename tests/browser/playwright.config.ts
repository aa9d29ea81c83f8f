import { defineConfig } from "@playwright/test";
import { chromiumOptions } from "./chromium.mjs";

// Each worker has a server and a database of its own.
const at = Number(process.env.TEST_PARALLEL_INDEX ?? 0);
const urls = (process.env.GOLDEN_RULE_URLS ?? "").split(" ");
process.env.GOLDEN_RULE_URL = urls[at];
process.env.GOLDEN_RULE_CONNECTION = (process.env.GOLDEN_RULE_CONNECTIONS ?? "").split("|")[at];

export default defineConfig({
  testDir: ".",
  testMatch: "*.spec.ts",
  workers: urls.length,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  reporter: [["list"], ["json", { outputFile: "test-results/results.json" }]],
  use: {
    baseURL: process.env.GOLDEN_RULE_URL,
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    locale: "en-GB",
    launchOptions: chromiumOptions,
  },
});
