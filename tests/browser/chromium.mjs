import { existsSync } from "node:fs";

/**
 * Debian's Chromium without a monitor; where there is its build without windows, which does the same with less work, that. The features that are off are those the test runner turns off by itself, and two
 * that keep a process for the address bar of every window, which nobody sees here.
 */
const withoutWindows = "/usr/bin/chromium-headless-shell";
export const chromiumOptions = {
  executablePath: existsSync(withoutWindows) ? withoutWindows : "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-features=HttpsUpgrades,HttpsFirstBalancedModeAutoEnable,LensOverlay,MediaRouter,NetworkTimeServiceQuerying,OptimizationHints,PaintHolding,PreconnectToSearch,ThirdPartyStoragePartitioning,AimEnabled,DestroyProfileOnBrowserClose,AvoidUnnecessaryBeforeUnloadCheckSync,WebUIOmniboxPopup,WebUIOmniboxAimPopup",
  ],
};
