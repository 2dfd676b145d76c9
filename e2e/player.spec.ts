import path from "node:path";
import { pathToFileURL } from "node:url";
import { planOutput, showForOutput } from "@humming-tide/core/film";
import { planFrame } from "@humming-tide/core/picture";
import { mainOutput, type ShowDocument } from "@humming-tide/core/show";
import { handSteps } from "@humming-tide/core/web-player";
import { openStudio, writePlayer } from "@humming-tide/server";
import { drawnFile, drawStill, PictureCache } from "@humming-tide/server/export";
import { expect, type Page, test } from "@playwright/test";
import sharp from "sharp";
import { copyDemo, type RunningApp, showsOf, startApp } from "./running-app.ts";

/** The film fills the window to the pixel, so that what is seen can be compared with what the export draws. */
const SIZE = { width: 960, height: 540 };
test.use({ viewport: SIZE, hasTouch: true });

let app: RunningApp;
let place: string;
let plan: ReturnType<typeof planOutput>;
let still: (frame: number) => Promise<Uint8Array>;

test.beforeAll(async () => {
  app = await startApp(copyDemo);
  const show = (await showsOf(app)).find(({ title }) => title.startsWith("Closing night"))!;
  const studio = await openStudio(path.join(app.folder, "data"));
  try {
    const { library } = studio;
    const { document } = await studio.shows.get(show.id);
    const small: ShowDocument = { ...document, size: SIZE };
    const output = { ...mainOutput(small), container: "player" } as const;
    plan = planOutput(small, output, await library.filmFacts(small));
    const copies = await library.prepareFilm(showForOutput(small, output), plan);
    place = path.join(app.folder, "player");
    const signal = new AbortController().signal;
    const facts = { plan, output, copies, place, signal, title: small.title, store: library.store };
    await writePlayer({ ...facts, chapters: [], onProgress: () => undefined });
    const pictures = new PictureCache((picture, of) => drawnFile(library.store, picture, of, copies));
    still = (frame) => drawStill(planFrame(plan, frame), pictures);
  } finally {
    await studio.close();
  }
});
test.afterAll(() => app.close());

/** Opens the page as a double click does, and counts what it asks for that is no file of its folder. */
async function open(page: Page): Promise<string[]> {
  const strange: string[] = [];
  page.on("request", (request) => {
    if (!request.url().startsWith(pathToFileURL(place).href) && !/^(blob|data):/.test(request.url()))
      strange.push(request.url());
  });
  page.on("pageerror", (error) => strange.push(error.message));
  await page.goto(pathToFileURL(path.join(place, "index.html")).href);
  await expect(page.locator("canvas")).toHaveAttribute("data-frame", "0");
  return strange;
}

const shownFrame = async (page: Page): Promise<number> =>
  Number(await page.locator("canvas").getAttribute("data-frame"));

/** Goes to a frame by hand and gives back what is seen, without what lies over the film. */
async function seen(page: Page): Promise<Uint8Array> {
  await page.addStyleTag({ content: "header, canvas ~ * { opacity: 0 !important }" });
  const shot = await page.screenshot();
  return sharp(shot).ensureAlpha().raw().toBuffer();
}

function psnr(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) if (i % 4 !== 3) sum += (a[i]! - b[i]!) ** 2;
  return 10 * Math.log10((255 * 255 * 0.75 * a.length) / Math.max(1, sum));
}

test("opened from a folder, it plays by itself in time with its sound, and asks for nothing outside", async ({
  page,
}) => {
  const strange = await open(page);
  await page.getByRole("button", { name: "Play the film" }).click();
  await expect.poll(() => shownFrame(page)).toBeGreaterThan(30);
  const [from, start] = [await shownFrame(page), await page.evaluate(() => performance.now())];
  await page.waitForTimeout(3000);
  const [to, end] = [await shownFrame(page), await page.evaluate(() => performance.now())];
  expect(Math.abs((to - from) / 25 - (end - start) / 1000)).toBeLessThan(0.25);
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Play", exact: true })).toBeVisible();
  await page.keyboard.press("ArrowRight");
  const starts = handSteps(plan).map(({ startFrame }) => startFrame);
  await expect.poll(async () => starts.slice(1).includes(await shownFrame(page))).toBe(true);
  await page.keyboard.press("End");
  await expect.poll(() => shownFrame(page)).toBe(plan.totalFrames - 1);
  expect(strange).toEqual([]);
});

test("steps by hand with keys, a press and a finger: each slide comes with its transition and waits", async ({
  page,
}) => {
  const strange = await open(page);
  const rests = handSteps(plan).map(({ restFrame }) => restFrame);
  await page.getByRole("button", { name: "Step by hand, without sound" }).click();
  await expect.poll(() => shownFrame(page)).toBe(rests[0]);
  await page.keyboard.press("PageDown");
  await expect.poll(() => shownFrame(page)).toBeGreaterThan(rests[0]!);
  await expect(page.getByText("Slide 2 of 60").first()).toBeVisible();
  await expect.poll(() => shownFrame(page), { timeout: 15_000 }).toBe(rests[1]);
  // Its left third goes back.
  await page.locator("canvas").click({ position: { x: 60, y: 200 } });
  await expect.poll(() => shownFrame(page)).toBe(rests[0]);
  await page.locator("canvas").tap({ position: { x: 700, y: 200 } });
  await expect.poll(() => shownFrame(page)).toBeGreaterThan(rests[0]!);
  // In a hurry: the next one begins at once.
  await page.keyboard.press("ArrowRight");
  await expect(page.getByText("Slide 3 of 60").first()).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("b");
  await expect(page.getByRole("button", { name: "Play", exact: true })).toBeVisible();
  expect(strange).toEqual([]);
});

test("shows what the export draws: pictures, looks, words and transitions, to 36 dB", async ({ page }) => {
  await open(page);
  const slots = plan.slots.slice(1);
  const transitions = [2, 9, 20].map((index) => slots[index]!.transitionIn);
  const frames = [
    ...transitions.map(({ startFrame, endFrame }) => (startFrame + endFrame) >> 1),
    plan.slots[0]!.startFrame + 60,
    handSteps(plan)[14]!.restFrame,
  ];
  await page.keyboard.press("b");
  for (const frame of frames) {
    const line = page.getByRole("slider", { name: "Place in the film" });
    await line.focus();
    await page.evaluate((to) => {
      const element = document.querySelector("input")!;
      element.step = "any";
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(element, String(to));
      element.dispatchEvent(new Event("input", { bubbles: true }));
    }, frame / 25);
    await expect.poll(() => shownFrame(page)).toBe(frame);
    await page.waitForTimeout(300);
    expect(psnr(await seen(page), await still(frame)), `frame ${frame}`).toBeGreaterThan(36);
  }
});
