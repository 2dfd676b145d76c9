import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { clickSong, stripedJpeg } from "@humming-tide/server/testing";
import { chromium } from "@playwright/test";
import config from "./playwright.config.ts";
import { hummingTide, showsOf, startApp } from "./running-app.ts";

/**
 * Part of npm run bench:page: what a picture of the screen costs on Listen, script and drawing
 * commands together. A song of ten minutes plays at zooms from the whole song to single frames, and
 * is zoomed. Ends with 1 where the 95th percentile is over 16 ms.
 */
const SONG_SECONDS = 600;
const LARGEST_MS = 16;
/** Steps of the zoom slider, from the whole song to a quarter of a second. */
const ZOOMS = [0, 25, 50, 75, 100];

const app = await startApp();
const browser = await chromium.launch(present(config.use).launchOptions);
try {
  const folder = path.join(app.folder, "files");
  await mkdir(folder);
  await writeFile(path.join(folder, "1.jpg"), await stripedJpeg(1, 360, 240));
  await writeFile(path.join(folder, "song.wav"), clickSong(SONG_SECONDS, 118).wav);
  // The folder belongs to one program at a time.
  await app.kill();
  const { status, out } = hummingTide("gather", "Long song", folder, "--data", path.join(app.folder, "data"));
  if (status !== 0) throw new Error(out);
  await app.restart();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    const costs: number[] = [];
    // All callbacks of one picture of the screen have the same time: their costs add up.
    let pictureTime = -1;
    const ask = window.requestAnimationFrame.bind(window);
    window.requestAnimationFrame = (callback) =>
      ask((time) => {
        const from = performance.now();
        callback(time);
        const cost = performance.now() - from;
        if (time === pictureTime) costs[costs.length - 1]! += cost;
        else costs.push(cost);
        pictureTime = time;
      });
    Object.assign(window, { pictureCosts: costs });
  });
  await page.goto(`${app.address}/shows/${itemAt(await showsOf(app), 0).id}/listen`);
  const zoom = page.getByRole("slider", { name: "Zoom" });
  const report = async (what: string): Promise<void> => {
    const costs = await page.evaluate(() =>
      (window as unknown as { pictureCosts: number[] }).pictureCosts.splice(0).sort((a, b) => a - b),
    );
    const at = (share: number): number => costs[Math.min(costs.length - 1, Math.floor(share * costs.length))] ?? 0;
    console.log(
      `  ${what}: median ${at(0.5).toFixed(1)}, 95th percentile ${at(0.95).toFixed(1)} ms over ${costs.length} pictures`,
    );
    if (costs.length === 0 || at(0.95) > LARGEST_MS) process.exitCode = 1;
  };
  await page.getByRole("button", { name: "Play", exact: true, disabled: false }).click({ timeout: 60_000 });
  await page.waitForTimeout(1000);
  console.log(`Listen with a song of ${SONG_SECONDS} s`);
  for (const step of ZOOMS) {
    await zoom.fill(String(step));
    await page.waitForTimeout(300);
    await report("zooming to it");
    await page.waitForTimeout(3000);
    await report(`playing at ${await zoom.getAttribute("aria-valuetext")}`);
  }
} finally {
  await browser.close();
  await app.close();
}
