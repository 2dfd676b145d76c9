import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { clickSong, stripedJpeg } from "@humming-tide/server/testing";
import { chromium } from "@playwright/test";
import { drawnFramesPerSecond } from "./drawn-frames.ts";
import { provesItsWatch, reportLongTasks, watchLongTasks } from "./long-tasks.ts";
import { ownTaskTimes } from "./own-task-times.ts";
import config from "./playwright.config.ts";
import { startApp } from "./running-app.ts";

/**
 * npm run bench:page -- intake: 1,024 pictures and a song are brought in through the page while
 * the sheet is scrolled. The server prepares them on the same processors, so a task also takes
 * long where the page waits for its turn: what its own work takes is told apart. Ends with 1 where
 * a task has more than 50 ms of own work. It does so, too, where scrolling draws fewer than 55
 * frames a second once all are there.
 */
const PICTURES = 1024;
const LEAST_FRAMES_PER_SECOND = 55;

const app = await startApp();
const browser = await chromium.launch(present(config.use).launchOptions);
try {
  const folder = path.join(app.folder, "pictures");
  await mkdir(folder);
  for (let i = 1; i <= PICTURES; i++) await writeFile(path.join(folder, `${i}.jpg`), await stripedJpeg(i, 720, 480));
  await writeFile(path.join(folder, "song.wav"), clickSong(120, 120, 0.4).wav);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await watchLongTasks(page);
  await page.goto(app.address);
  await page.getByRole("button", { name: "New show" }).click();
  await page.getByLabel("Name").fill("Many");
  await page.getByRole("button", { name: "Start" }).click();
  const files = page.getByLabel("Choose a folder").first();
  await files.waitFor({ state: "attached" });
  await provesItsWatch(page);

  const scroll = async (steps: number): Promise<void> => {
    await page.mouse.move(600, 500);
    for (let i = 0; i < steps; i++) {
      await page.mouse.wheel(0, Math.floor(i / 40) % 2 === 0 ? 320 : -240);
      await page.waitForTimeout(16);
    }
  };
  const heading = page.getByRole("heading", { level: 1, name: /picture/ });
  const count = async (): Promise<number> =>
    Number.parseInt(((await heading.textContent()) ?? "").replace(",", ""), 10);
  const since = performance.now();
  await files.setInputFiles(folder);
  const rates: number[] = [];
  const own = await ownTaskTimes(page);
  while ((await heading.count()) === 0 || (await count()) < PICTURES) {
    rates.push(await drawnFramesPerSecond(page, () => scroll(120)));
    if (performance.now() - since > 1_800_000) throw new Error(`Only ${await count()} came in within half an hour`);
  }
  console.log(`${PICTURES} pictures through the page in ${((performance.now() - since) / 1000).toFixed(0)} s`);
  await reportLongTasks(page, "tasks over 50 ms while they came in, in ms");
  const comingIn = (await own.stop()).filter((ms) => ms > 50).map(Math.round);
  console.log(`  of these with more than 50 ms of own work: ${comingIn.join(", ") || "none"}`);
  rates.sort((a, b) => a - b);
  console.log(
    `  frames a second while they came in: median ${itemAt(rates, rates.length >> 1).toFixed(1)}, least ${itemAt(rates, 0).toFixed(1)}`,
  );
  await page.waitForTimeout(15_000);
  await reportLongTasks(page, "settling, 15 s");
  const rate = await drawnFramesPerSecond(page, () => scroll(400));
  const scrolling = await reportLongTasks(page, "scrolling, all there");
  console.log(`  frames a second while scrolling: ${rate.toFixed(1)} (wanted ${LEAST_FRAMES_PER_SECOND})`);
  if (comingIn.length > 0 || scrolling.length > 0 || rate < LEAST_FRAMES_PER_SECOND) process.exitCode = 1;
} finally {
  await browser.close();
  await app.close();
}
