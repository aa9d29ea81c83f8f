import { readdirSync } from "node:fs";
import { defineConfig } from "@playwright/test";
import { chromiumOptions } from "./chromium.mjs";

// The longest first, so that none is left at the end for one worker alone.
const longest = ["sending", "screens", "house", "typing", "hand-offs", "crash", "review", "people", "composing", "output"].map(
  (name) => `${name}.spec.ts`,
);
const files = readdirSync(import.meta.dirname).filter((file) => file.endsWith(".spec.ts") && !longest.includes(file));

// Each file is a project, and so has a worker of its own, which gives it a server and a database of its own: what one
// file leaves behind no other meets. Times are bounds for a machine that is busy with other work, not measures.
export default defineConfig({
  testDir: ".",
  globalSetup: "./startServers.ts",
  workers: 2,
  projects: [...longest, ...files].map((file) => ({ name: file.replace(".spec.ts", ""), testMatch: file })),
  timeout: 600_000,
  expect: { timeout: 30_000 },
  reporter: [["list"], ["json", { outputFile: "test-results/results.json" }]],
  use: {
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    locale: "en-GB",
    launchOptions: chromiumOptions,
  },
});
