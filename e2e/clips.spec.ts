import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { present } from "@humming-tide/core/presence";
import type { Slide } from "@humming-tide/core/show";
import { numberedClip, stripedJpeg } from "@humming-tide/server/testing";
import { expect, type Page, test } from "@playwright/test";
import { allSaved, leaveSaved } from "./all-saved.ts";
import { copyDemo, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/** What is proposed for clips, and clips that lie in the files of pictures. */
test.describe.configure({ mode: "serial" });

/** In the demo's clip the rocket bursts then (demo/src/clips). */
const BURST = { fileName: "clip 4 the last rocket.mp4", seconds: 1.6 };

let app: RunningApp;
let showId: string;

test.beforeAll(async () => {
  test.setTimeout(240_000);
  app = await startApp(copyDemo);
  showId = present((await showsOf(app)).find(({ title }) => title === "Dance on the quay")).id;
});
test.afterEach(leaveSaved);
test.afterAll(() => app.close());

const slideOf = async (fileName: string): Promise<Slide> =>
  present((await savedShow(app, showId)).document.slides.find((slide) => slide.fileName === fileName));

const momentOf = async (): Promise<number | null> => (await slideOf(BURST.fileName)).clip?.momentSeconds ?? null;

async function open(page: Page, screen: string): Promise<void> {
  await page.goto(`${app.address}/shows/${showId}/${screen}`);
  await expect(page.getByTestId("save-status")).toBeVisible();
}

test("moments are found for all clips at one press, and taken back at one key", async ({ page }) => {
  await open(page, "gather");
  await page.getByRole("button", { name: "Find moments" }).click();
  await expect(page.getByText(/Moments or trims taken for 1 clip/)).toBeVisible({ timeout: 60_000 });
  await expect.poll(momentOf).not.toBeNull();
  expect(Math.abs(present(await momentOf()) - BURST.seconds)).toBeLessThan(0.2);
  await page.keyboard.press("Control+z");
  await expect.poll(momentOf).toBeNull();
});

test("the Score offers what was found in a clip, and says when nothing was", async ({ page }) => {
  await open(page, "score");
  await page
    .locator(`[data-testid="slot"][data-slide="${(await slideOf(BURST.fileName)).id}"]`)
    .first()
    .click();
  const found = page.getByRole("group", { name: "Found in the clip" });
  const choice = found.getByRole("button", { name: /^Most movement at 1\.\d s$/ });
  await choice.click();
  await expect(choice).toHaveAttribute("aria-pressed", "true");
  await expect.poll(momentOf).not.toBeNull();
  await page
    .locator(`[data-testid="slot"][data-slide="${(await slideOf("clip 3 the dance.mp4")).id}"]`)
    .first()
    .click();
  await expect(page.getByText(/Nothing stands out in this clip/)).toBeVisible({ timeout: 30_000 });
});

test("a clip in a picture's file takes the picture's place, which can be put back", async ({ page }) => {
  const clip = await readFile(numberedClip(path.join(app.folder, "around.mp4"), "25"));
  const picture = path.join(app.folder, "quay at night.jpg");
  await writeFile(picture, Buffer.concat([await stripedJpeg(31), clip]));
  await open(page, "gather");
  await page.getByLabel("Choose pictures, clips and a song").setInputFiles(picture);
  await expect(page.getByText("1 picture with a short clip inside")).toBeVisible();
  await allSaved(page);
  const { id } = await slideOf("quay at night.jpg");
  await page.getByRole("link", { name: /^Score/ }).click();
  await page.locator(`[data-testid="slot"][data-slide="${id}"]`).first().click();
  await page.getByRole("button", { name: "Replace picture …" }).click();
  await page.getByRole("button", { name: "Show the clip" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect.poll(async () => (await slideOf("quay at night moving.mp4").catch(() => null))?.id).toBe(id);
  await page.getByRole("button", { name: "Replace picture …" }).click();
  await page.getByRole("button", { name: "Put back quay at night.jpg" }).click();
  await expect.poll(async () => (await slideOf("quay at night.jpg").catch(() => null))?.id).toBe(id);
});
