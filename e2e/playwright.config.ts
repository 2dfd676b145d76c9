import { defineConfig } from "@playwright/test";
import { BROWSER } from "./browser.ts";

/**
 * Debian's chromium, as root on a closed network; audio may start without a gesture and goes
 * nowhere.
 */
const FLAGS = [
  "--headless",
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

export default defineConfig({
  testDir: ".",
  globalSetup: "./make-demo.ts",
  testMatch: "*.spec.ts",
  // Far beyond what anything takes: a machine with other work must not fail a test that is only
  // slow.
  timeout: 300_000,
  expect: { timeout: 40_000 },
  // What passes only the second time is a defect to find. Only where a landing hangs on it is there
  // a second time, and the report then names the test "flaky".
  retries: process.env["CI"] ? 1 : 0,
  // Each file has a server, a data folder and a browser of its own; most of their time they wait,
  // so one more than there are cores keeps the cores at work.
  workers: 3,
  forbidOnly: true,
  reporter: [["list"]],
  outputDir: "../test-results",
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: BROWSER, args: FLAGS },
    // Recording every action costs a quarter of the time; what fails is run again anyway.
    trace: "on-first-retry",
  },
});
