import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { stripedJpeg } from "@humming-tide/server/testing";
import { chromium } from "@playwright/test";
import { measureLongTasks, provesItsWatch, reportLongTasks, watchLongTasks } from "./long-tasks.ts";
import config from "./playwright.config.ts";
import { hummingTide, showsOf, startApp } from "./running-app.ts";

/**
 * npm run bench:page: how long the page's main thread is held up on a contact sheet of 1,024
 * pictures. Ends with 1 where a task of more than 50 ms is seen while the sheet is scrolled.
 */
const PICTURES = 1024;

const app = await startApp();
const browser = await chromium.launch(present(config.use).launchOptions);
try {
  const folder = path.join(app.folder, "pictures");
  await mkdir(folder);
  for (let i = 1; i <= PICTURES; i++) await writeFile(path.join(folder, `${i}.jpg`), await stripedJpeg(i, 360, 240));
  // The folder belongs to one program at a time.
  await app.kill();
  const { status, out } = hummingTide("gather", "Many", folder, "--data", path.join(app.folder, "data"));
  if (status !== 0) throw new Error(out);
  await app.restart();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await watchLongTasks(page);
  await page.goto(`${app.address}/shows/${itemAt(await showsOf(app), 0).id}/gather`);
  await page.getByTestId("picture").first().waitFor();
  await page.waitForTimeout(4000);
  console.log(`${PICTURES} pictures on the contact sheet; tasks over 50 ms, in ms`);
  await reportLongTasks(page, "opening");
  await provesItsWatch(page);
  const scrolling = await measureLongTasks(page, "scrolling", async () => {
    await page.mouse.move(600, 500);
    for (let i = 0; i < 220; i++) {
      await page.mouse.wheel(0, i < 160 ? 320 : -400);
      await page.waitForTimeout(16);
    }
  });
  console.log(`  pictures in the document at the end of it: ${await page.getByTestId("picture").count()}`);
  await measureLongTasks(page, "culling, 30 pictures", async () => {
    await page.getByTestId("picture").first().click();
    for (let i = 0; i < 30; i++) {
      await page.keyboard.press(itemAt("nbk", i % 3));
      await page.waitForTimeout(60);
    }
  });
  await measureLongTasks(page, "selecting all, and a range", async () => {
    await page.keyboard.press("Control+a");
    await page.waitForTimeout(300);
    await page.keyboard.press("Shift+End");
    await page.waitForTimeout(600);
  });
  await measureLongTasks(page, "a batch change of 1,024, and undo", async () => {
    await page.keyboard.press("Control+a");
    await page.keyboard.press("b");
    await page.waitForTimeout(1500);
    await page.keyboard.press("Control+z");
    await page.waitForTimeout(1500);
  });
  if (scrolling.length > 0) process.exitCode = 1;
} finally {
  await browser.close();
  await app.close();
}
