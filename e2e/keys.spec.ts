import { itemAt } from "@humming-tide/core/presence";
import { expect, test } from "@playwright/test";
import { leaveSaved } from "./all-saved.ts";
import { findings } from "./axe-findings.ts";
import { copyDemo, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

let app: RunningApp;
let showId: string;

test.beforeAll(async () => {
  test.setTimeout(180_000);
  app = await startApp(copyDemo);
  showId = itemAt(await showsOf(app), 0).id;
});
test.afterEach(leaveSaved);
test.afterAll(() => app.close());

test("a letter is changed in the list of keys, works from then on, and none is for two commands", async ({ page }) => {
  const ratingOfFirst = async () => itemAt((await savedShow(app, showId)).document.slides, 0).rating;
  await page.goto(`${app.address}/shows/${showId}/gather`);
  await page.getByTestId("picture").first().click();
  await page.keyboard.press("?");
  await page.getByRole("button", { name: "Change letters" }).click();
  expect(await findings(page)).toEqual([]);
  const out = page.getByRole("textbox", { name: "Letter for: Leave out" });
  await out.focus();
  await page.keyboard.press("k");
  await expect(page.getByText("K is for “Keep”. Give that another letter first.")).toBeVisible();
  await expect(out).toHaveValue("N");
  await page.keyboard.press("x");
  await expect(out).toHaveValue("X");
  await page.getByRole("button", { name: "Show all keys" }).click();
  await expect(page.getByRole("row", { name: /^K \/ B \/ X/ }).first()).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();

  // It is kept, and the letter of before does nothing.
  await page.reload();
  const first = page.getByTestId("picture").first();
  await first.click();
  await page.keyboard.press("n");
  await page.keyboard.press("h");
  await expect.poll(async () => itemAt((await savedShow(app, showId)).document.slides, 0).hero).toBe(true);
  expect(await ratingOfFirst()).not.toBe("out");
  await page.keyboard.press("x");
  await expect.poll(ratingOfFirst).toBe("out");
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await page.getByRole("button", { name: "Keys (?)" }).click();
  await page.getByRole("button", { name: "Change letters" }).click();
  await page.getByRole("button", { name: "Back to the usual letters" }).click();
  await expect(out).toHaveValue("N");
});
