// Starts the platform:  node start.mjs PORT  with its token in PLATFORM_TOKEN; CLOCK_SPEED says how fast its time runs.
import { startPlatform } from "./platform.mjs";

const platform = await startPlatform({ port: Number(process.argv[2] ?? 0), token: process.env.PLATFORM_TOKEN });
if (process.env.CLOCK_SPEED) {
  platform.clock.set({ speed: Number(process.env.CLOCK_SPEED) });
}
console.log(platform.address);
