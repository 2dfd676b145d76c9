import { createReadStream } from "node:fs";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { type FilmPlan, planOutput, showForOutput } from "@humming-tide/core/film";
import { clipAt, planFrame } from "@humming-tide/core/picture";
import { itemAt, present } from "@humming-tide/core/presence";
import { FIRST_STYLE, mainOutput, newPassage, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { handSteps } from "@humming-tide/core/web-player";
import { openStudio, writePlayer } from "@humming-tide/server";
import { numberedClip, readNumber } from "@humming-tide/server/testing";
import { drawnFile, drawStill, PictureCache } from "@humming-tide/server/video";
import { expect, type Page, test } from "@playwright/test";
import sharp from "sharp";
import { copyDemo, type RunningApp, showsOf, startApp } from "./running-app.ts";

type Copies = ReadonlyMap<string, string>;

/**
 * The film fills the window to the pixel, so that what is seen can be compared with what the export
 * draws.
 */
const SIZE = { width: 960, height: 540 };
test.use({ viewport: SIZE, hasTouch: true });

let app: RunningApp;
/** The folders of two players: of the demo, and of a show with a clip whose frames are numbered. */
const places = { demo: "", clip: "" };
let plan: FilmPlan;
let clipPlan: FilmPlan;
let still: (frame: number) => Promise<Uint8Array>;

test.beforeAll(async () => {
  app = await startApp(copyDemo);
  const show = present((await showsOf(app)).find(({ title }) => title.startsWith("Closing night")));
  // The folder belongs to one program at a time, and players need no server.
  await app.kill();
  const studio = await openStudio(path.join(app.folder, "data"));
  try {
    const { library } = studio;
    const write = async (document: ShowDocument, place: string): Promise<{ plan: FilmPlan; copies: Copies }> => {
      const output = { ...mainOutput(document), container: "player" } as const;
      const film = planOutput(document, output, await library.filmFacts(document));
      const copies = await library.prepareFilm(showForOutput(document, output), film);
      const signal = new AbortController().signal;
      const facts = { plan: film, output, copies, place, signal, title: document.title, store: library.store };
      await writePlayer({ ...facts, chapters: [], onProgress: () => undefined });
      return { plan: film, copies };
    };
    const { document } = await studio.shows.get(show.id);
    const small: ShowDocument = { ...document, size: SIZE };
    places.demo = path.join(app.folder, "player");
    const demo = await write(small, places.demo);
    plan = demo.plan;
    const pictures = new PictureCache((picture, of) => drawnFile(library.store, picture, of, demo.copies));
    still = (frame) => drawStill(planFrame(plan, frame), pictures);

    const file = numberedClip(path.join(app.folder, "numbers.mp4"), "25");
    const { sha256 } = await library.takeIn(createReadStream(file), "numbers.mp4");
    const passage = { ...newPassage("p1", ""), pace: { kind: "bars", count: 1 } } as const;
    const slides = small.slides.slice(0, 3).map((slide) => ({ ...slide, passageId: "p1", words: [], caption: "" }));
    const clip = newSlide({ id: "clip", sha256, fileName: "numbers.mp4" }, "p1");
    places.clip = path.join(app.folder, "clip-player");
    const plain: ShowDocument = {
      ...{ ...small, voices: [], passages: [passage], slides: [itemAt(slides, 0), clip, ...slides.slice(1)] },
      ...{ style: FIRST_STYLE, standsStill: true, lead: { kind: "slides" } },
    };
    clipPlan = (await write(plain, places.clip)).plan;
  } finally {
    await studio.close();
  }
});
test.afterAll(() => app.close());

/**
 * Opens the page as a double click does, and counts what it asks for that is no file of its folder.
 */
async function open(page: Page, place = places.demo): Promise<string[]> {
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

/** The frame that is shown, and when, read at once. */
const frameAndTime = (page: Page): Promise<{ frame: number; seconds: number }> =>
  page
    .locator("canvas")
    .evaluate((canvas) => ({ frame: Number(canvas.dataset["frame"]), seconds: performance.now() / 1000 }));

/** Goes to a frame by hand and gives back what is seen, without what lies over the film. */
async function seen(page: Page): Promise<Uint8Array> {
  await page.addStyleTag({ content: "header, canvas ~ * { opacity: 0 !important }" });
  const shot = await page.screenshot();
  return sharp(shot).ensureAlpha().raw().toBuffer();
}

function psnr(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) if (i % 4 !== 3) sum += (itemAt(a, i) - itemAt(b, i)) ** 2;
  return 10 * Math.log10((255 * 255 * 0.75 * a.length) / Math.max(1, sum));
}

test("opened from a folder, it plays by itself in time with its sound, and asks for nothing outside", async ({
  page,
}) => {
  const strange = await open(page);
  await page.getByRole("button", { name: "Play the film" }).click();
  await expect.poll(() => shownFrame(page)).toBeGreaterThan(30);
  // A busy machine may hold a picture up now and then, but a wrong clock is wrong in every stretch.
  await expect(async () => {
    const from = await frameAndTime(page);
    await page.waitForTimeout(2000);
    const to = await frameAndTime(page);
    expect(Math.abs((to.frame - from.frame) / 25 - (to.seconds - from.seconds))).toBeLessThan(0.25);
  }).toPass({ intervals: [0], timeout: 40_000 });
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Play", exact: true })).toBeVisible();
  await page.keyboard.press("ArrowRight");
  const starts = handSteps(plan).map(({ startFrame }) => startFrame);
  await expect.poll(async () => starts.slice(1).includes(await shownFrame(page))).toBe(true);
  await page.keyboard.press("f");
  await expect.poll(() => page.evaluate(() => document.fullscreenElement !== null)).toBe(true);
  await page.getByRole("button", { name: "Leave the full screen" }).click();
  await expect.poll(() => page.evaluate(() => document.fullscreenElement !== null)).toBe(false);
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
  await expect.poll(() => shownFrame(page)).toBeGreaterThan(itemAt(rests, 0));
  await expect(page.getByText("Slide 2 of 60").first()).toBeVisible();
  await expect.poll(() => shownFrame(page), { timeout: 15_000 }).toBe(rests[1]);
  // Its left third goes back.
  await page.locator("canvas").click({ position: { x: 60, y: 200 } });
  await expect.poll(() => shownFrame(page)).toBe(rests[0]);
  await page.locator("canvas").tap({ position: { x: 700, y: 200 } });
  await expect.poll(() => shownFrame(page)).toBeGreaterThan(itemAt(rests, 0));
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

/** As somebody drags the line to a place. */
async function goTo(page: Page, frame: number): Promise<void> {
  await page.evaluate((to) => {
    const element = document.querySelector("input")!;
    element.step = "any";
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(element, String(to));
    element.dispatchEvent(new Event("input", { bubbles: true }));
  }, frame / 25);
  await expect.poll(() => shownFrame(page)).toBe(frame);
}

test("shows what the export draws: pictures, looks, words and transitions, to 36 dB", async ({ page }) => {
  await open(page);
  const slots = plan.slots.slice(1);
  const transitions = [2, 9, 20].map((index) => itemAt(slots, index).transitionIn);
  const frames = [
    ...transitions.map(({ startFrame, endFrame }) => (startFrame + endFrame) >> 1),
    itemAt(plan.slots, 0).startFrame + 60,
    itemAt(handSteps(plan), 14).restFrame,
  ];
  await page.keyboard.press("b");
  for (const frame of frames) {
    await goTo(page, frame);
    // Pictures come a moment after the place was chosen.
    const drawn = await still(frame);
    await expect.poll(async () => psnr(await seen(page), drawn), { message: `frame ${frame}` }).toBeGreaterThan(36);
  }
});

test("shows of a clip the very frame that belongs to each of the film's", async ({ page }) => {
  await open(page, places.clip);
  await page.keyboard.press("b");
  const slot = present(clipPlan.slots.find(({ slideId }) => slideId === "clip"));
  const first = slot.transitionIn.endFrame;
  for (const frame of [first, first + 1, first + 9, slot.endFrame - 12, first + 4]) {
    await goTo(page, frame);
    const wanted = Math.round(25 * clipAt(present(slot.clip), slot.index, frame).seconds);
    await expect
      .poll(async () => {
        const pixels = await seen(page);
        const row = Array.from({ length: SIZE.width }, (_, x) => itemAt(pixels, 4 * (270 * SIZE.width + x)));
        return readNumber(row);
      }, `frame ${frame}`)
      .toBe(wanted);
  }
});
