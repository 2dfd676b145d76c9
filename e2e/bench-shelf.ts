import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { newShowDocument, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { openStudio } from "@humming-tide/server";
import { chromium } from "@playwright/test";
import { measureLongTasks, provesItsWatch, reportLongTasks, watchLongTasks } from "./long-tasks.ts";
import config from "./playwright.config.ts";
import { startApp } from "./running-app.ts";

/**
 * npm run bench:page: the shelf with 2,000 shows. Prints how long the server takes for the list,
 * and when the first card is seen. Prints tasks of more than 50 ms while it is scrolled; ends with
 * 1 where there is one.
 */
const SHOWS = 2000;
/** As many slides as a wedding has; every twentieth show is so large, the others have a few. */
const SLIDES = 300;
const ASKED = 9;

const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-shelf-"));
const large: ShowDocument = {
  ...newShowDocument(""),
  slides: Array.from({ length: SLIDES }, (_, i) =>
    newSlide({ id: `s${i}`, sha256: i.toString(16).padStart(64, "0"), fileName: `picture ${i}.jpg` }),
  ),
};
const studio = await openStudio(path.join(folder, "data"));
for (let i = 0; i < SHOWS; i++) {
  const slides = i % 20 === 0 ? large.slides : large.slides.slice(0, 5);
  const facts = { title: `Closing night ${i}`, event: "Lantern regatta", client: `Crew ${i % 40}` };
  await studio.shows.create(facts.title, { ...large, ...facts, slides });
}
await studio.close();

const { cp } = await import("node:fs/promises");
const app = await startApp();
await app.kill();
await rm(path.join(app.folder, "data"), { recursive: true });
await cp(path.join(folder, "data"), path.join(app.folder, "data"), { recursive: true });
await app.restart();
const browser = await chromium.launch(present(config.use).launchOptions);
try {
  const times: number[] = [];
  for (let i = 0; i < ASKED; i++) {
    const since = performance.now();
    await (await fetch(`${app.address}/api/shows`)).arrayBuffer();
    times.push(performance.now() - since);
  }
  times.sort((a, b) => a - b);
  console.log(
    `${SHOWS} shows: the list in ${itemAt(times, 0).toFixed(0)} to ${lastOf(times).toFixed(0)} ms, ` +
      `median ${itemAt(times, ASKED >> 1).toFixed(0)}`,
  );
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await watchLongTasks(page);
  // Once for the browser's own caches.
  await page.goto(app.address);
  await page.getByRole("article").first().waitFor();
  const since = performance.now();
  await page.reload({ waitUntil: "commit" });
  await page.getByRole("article").first().waitFor();
  console.log(`  first card after ${(performance.now() - since).toFixed(0)} ms`);
  await page.waitForTimeout(2000);
  await reportLongTasks(page, "opening");
  await provesItsWatch(page);
  const scrolling = await measureLongTasks(page, "scrolling", async () => {
    await page.mouse.move(600, 500);
    for (let i = 0; i < 220; i++) {
      await page.mouse.wheel(0, i < 160 ? 900 : -1200);
      await page.waitForTimeout(16);
    }
  });
  await measureLongTasks(page, "searching", async () => {
    await page.getByLabel("Search shows").pressSequentially("crew 17", { delay: 60 });
  });
  console.log(
    `  cards in the document: ${await page.getByRole("article").count()}, nodes: ${await page.evaluate(() => document.querySelectorAll("*").length)}`,
  );
  if (scrolling.length > 0) process.exitCode = 1;
} finally {
  await browser.close();
  await app.close();
  await rm(folder, { recursive: true, force: true });
}
