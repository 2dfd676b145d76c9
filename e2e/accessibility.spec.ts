import { present } from "@humming-tide/core/presence";
import { expect, test } from "@playwright/test";
import { findings } from "./axe-findings.ts";
import { copyDemo, type RunningApp, showsOf, startApp } from "./running-app.ts";

/** axe-core, a program of others, finds nothing of any level on any screen. */

let app: RunningApp;
let showId: string;

// A control that is not there fails soon.
test.use({ actionTimeout: 10_000 });

test.beforeAll(async () => {
  app = await startApp(copyDemo);
  showId = present((await showsOf(app)).find(({ title }) => title.startsWith("Closing night"))).id;
});
test.afterAll(() => app.close());

test("the shelf", async ({ page }) => {
  await page.goto(app.address);
  await expect(page.getByRole("article").first()).toBeVisible();
  expect(await findings(page)).toEqual([]);
});

const SCREENS: readonly (readonly [string, string, readonly string[]])[] = [
  ["gather", "picture", []],
  ["listen", "whole-song", ["Taps", "Markers", "Songs"]],
  ["score", "slot", ["Sound"]],
  ["dress", "stage", ["Change", "Look", "Words"]],
  ["hand-over", "save-status", ["Client page", "Site and disc", "Checks"]],
];
for (const [screen, testId, parts] of SCREENS)
  test(`${screen}, in each of its parts`, async ({ page }) => {
    await page.goto(`${app.address}/shows/${showId}/${screen}`);
    await expect(page.getByTestId(testId).first()).toBeVisible();
    await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
    const found: Record<string, string[]> = { [screen]: await findings(page) };
    for (const part of parts) {
      await page.getByRole("radio", { name: part, exact: true }).click();
      found[part] = await findings(page);
    }
    expect(Object.fromEntries(Object.entries(found).filter(([, list]) => list.length > 0))).toEqual({});
  });

test("the list of variants, and two films side by side", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/score`);
  await page.getByRole("button", { name: "Variants" }).click();
  await page.getByLabel("Keep the film as it is now, under a name").fill("Calm");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Compare" })).toBeVisible();
  expect(await findings(page)).toEqual([]);
  await page.getByRole("button", { name: "Compare" }).click();
  await expect(page.getByTestId("film-column")).toHaveCount(2, { timeout: 30_000 });
  await expect(page.getByRole("heading", { level: 1 })).toHaveCount(1);
  expect(await findings(page)).toEqual([]);
});
