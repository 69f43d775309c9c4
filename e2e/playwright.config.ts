import { defineConfig } from "@playwright/test";

/** Debian's Chromium. */
export const chromium = {
  browserName: "chromium" as const,
  viewport: { width: 1280, height: 800 },
  launchOptions: {
    executablePath: "/usr/bin/chromium",
    args: [
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
    chromiumSandbox: false,
  },
};

export default defineConfig({
  testDir: "tests",
  outputDir: "results",
  // Each has a server and a painter of its own. Where one waits the other works: two take two thirds of the time on two cores.
  workers: 2,
  // A journey takes about a minute at most here; no limit may decide on a machine that is slow and busy.
  timeout: 240_000,
  expect: { timeout: 20_000 },
  forbidOnly: !!process.env.CI,
  // A second try on a crowded machine; what needed it is reported as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: "list",
  // A service worker would fetch the whole page anew in every test: one journey has it.
  use: { ...chromium, actionTimeout: 60_000, serviceWorkers: "block", trace: process.env.CI ? "on-first-retry" : "retain-on-failure" },
});
