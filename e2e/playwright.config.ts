import { defineConfig } from "@playwright/test";

/** Debian's chromium, as root on a closed network; audio may start without a gesture and goes nowhere. */
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
  timeout: 180_000,
  expect: { timeout: 20_000 },
  workers: 1,
  forbidOnly: true,
  reporter: [["list"]],
  outputDir: "../test-results",
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium", args: FLAGS },
    trace: "retain-on-failure",
  },
});
