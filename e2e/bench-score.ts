import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { clickSong, stripedJpeg } from "@humming-tide/server/testing";
import { chromium } from "@playwright/test";
import { measureLongTasks, provesItsWatch, reportLongTasks, watchLongTasks } from "./long-tasks.ts";
import config from "./playwright.config.ts";
import { hummingTide, showsOf, startApp } from "./running-app.ts";

/**
 * Part of npm run bench:page: how long the main thread is held up on a Score of 1,024 slides and 20
 * minutes of music. Ends with 1 where a task of more than 50 ms is seen: while rows are scrolled,
 * an edge or a picture is dragged, or the film plays.
 */
const PICTURES = 1024;
const SONG_SECONDS = 1200;

const app = await startApp();
const browser = await chromium.launch(present(config.use).launchOptions);
try {
  const folder = path.join(app.folder, "files");
  await mkdir(folder);
  for (let i = 1; i <= PICTURES; i++) await writeFile(path.join(folder, `${i}.jpg`), await stripedJpeg(i, 360, 240));
  await writeFile(path.join(folder, "song.wav"), clickSong(SONG_SECONDS, 118).wav);
  // The folder belongs to one program at a time.
  await app.kill();
  const { status, out } = hummingTide("gather", "Many", folder, "--data", path.join(app.folder, "data"));
  if (status !== 0) throw new Error(out);
  await app.restart();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await watchLongTasks(page);
  await page.goto(`${app.address}/shows/${itemAt(await showsOf(app), 0).id}/score`);
  const score = page.getByTestId("score");
  await score.waitFor({ timeout: 60_000 });
  await page.getByRole("button", { name: "Play", exact: true, disabled: false }).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(3000);
  console.log(
    `Score with ${await score.getAttribute("data-slots")} slots in ${await score.getAttribute("data-rows")} rows; tasks over 50 ms, in ms`,
  );
  await reportLongTasks(page, "opening");
  await provesItsWatch(page);
  const box = present(await score.boundingBox());
  const tasks: number[] = [];
  const measured = async (what: string, work: () => Promise<void>): Promise<void> => {
    tasks.push(...(await measureLongTasks(page, what, work)));
  };
  await measured("scrolling", async () => {
    await page.mouse.move(box.x + 300, box.y + 200);
    for (let i = 0; i < 220; i++) {
      await page.mouse.wheel(0, i < 160 ? 320 : -400);
      await page.waitForTimeout(16);
    }
  });
  console.log(`  pictures in the document at the end of it: ${await page.getByTestId("slot").count()}`);
  const landing = present(await page.getByTestId("landing").nth(6).boundingBox());
  await measured("dragging an edge from beat to beat and by frames", async () => {
    const [x, y] = [landing.x + landing.width / 2, landing.y + 20];
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let i = 0; i < 60; i++) {
      if (i === 30) await page.keyboard.down("Alt");
      await page.mouse.move(x + 40 * Math.sin(i / 6), y);
      await page.waitForTimeout(16);
    }
    await page.keyboard.up("Alt");
    await page.mouse.up();
    await page.waitForTimeout(1500);
  });
  const picture = present(await page.getByTestId("slot").nth(4).boundingBox());
  await measured("dragging a picture to another place", async () => {
    const [x, y] = [picture.x + picture.width / 2, picture.y + 20];
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let i = 0; i < 60; i++) {
      await page.mouse.move(x + 4 * i, y + 2 * i);
      await page.waitForTimeout(16);
    }
    await page.mouse.up();
    await page.waitForTimeout(1500);
  });
  await measured("playing for six seconds", async () => {
    await page.keyboard.press("Space");
    await page.waitForTimeout(6000);
    await page.keyboard.press("Space");
  });
  await measured("selecting all, a batch change, and undo", async () => {
    await page.keyboard.press("Control+a");
    await page.keyboard.press("b");
    await page.waitForTimeout(1500);
    await page.keyboard.press("Control+z");
    await page.waitForTimeout(1500);
  });
  if (tasks.length > 0) process.exitCode = 1;
} finally {
  await browser.close();
  await app.close();
}
