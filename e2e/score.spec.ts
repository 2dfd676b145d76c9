import path from "node:path";
import { songPlaceAt } from "@humming-tide/core/arrange";
import { landingText } from "@humming-tide/core/fit";
import { itemAt, present } from "@humming-tide/core/presence";
import { lockLanding, openLocks } from "@humming-tide/core/show";
import { expect, type Page, test } from "@playwright/test";
import { leaveSaved } from "./all-saved.ts";
import { copyDemo, editShow, plannedFilm, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/**
 * The Score by pointer and by keyboard; what came of it is read from the server. Each test gives
 * the show back as it was.
 */
test.describe.configure({ mode: "serial" });

let app: RunningApp;
let showId: string;

test.beforeAll(async () => {
  test.setTimeout(180_000);
  app = await startApp(copyDemo);
  showId = itemAt(await showsOf(app), 0).id;
});
test.afterEach(leaveSaved);
test.afterAll(() => app.close());

const openScore = async (page: Page): Promise<void> => {
  await page.goto(`${app.address}/shows/${showId}/score`);
  await expect(page.getByTestId("landing").nth(8)).toBeVisible();
};
const document = async () => (await savedShow(app, showId)).document;
const orderOf = async (): Promise<string[]> => (await document()).slides.map(({ id }) => id);
const slot = (page: Page, index: number) => page.locator(`[data-testid="slot"][data-slot="${index}"]`);
const landing = (page: Page, index: number) => page.locator(`[data-testid="landing"][data-slot="${index}"]`);

/** From the middle of one element to a place in another, in steps, as a hand does it. */
async function dragTo(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 12, from.y + 6, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 10 });
}

async function middleOf(page: Page, index: number, share = 0.5): Promise<{ x: number; y: number }> {
  const box = present(await slot(page, index).boundingBox());
  return { x: box.x + box.width * share, y: box.y + 16 };
}

test("a picture and a selection are dragged to another place, or moved there by keys; what moved is told and undone", async ({
  page,
}) => {
  await openScore(page);
  const before = await orderOf();
  await dragTo(page, await middleOf(page, 2), await middleOf(page, 6, 0.2));
  await expect(page.getByTestId("drop-mark")).toBeVisible();
  await page.mouse.up();
  const [a, b, c] = [itemAt(before, 2), itemAt(before, 3), itemAt(before, 6)];
  await expect
    .poll(orderOf)
    .toEqual([...before.slice(0, 2), b, itemAt(before, 4), itemAt(before, 5), a, c, ...before.slice(7)]);
  await expect(page.getByTestId("moved")).toContainText(/landings? moved|stayed/);
  await page.getByRole("button", { name: "Undo this" }).click();
  await expect.poll(orderOf).toEqual(before);

  await slot(page, 1).click();
  await slot(page, 3).click({ modifiers: ["Shift"] });
  await expect(page.getByRole("heading", { name: "3 pictures selected" })).toBeVisible();
  await dragTo(page, await middleOf(page, 2), await middleOf(page, 5, 0.8));
  await page.mouse.up();
  const moved = before.slice(1, 4);
  await expect
    .poll(orderOf)
    .toEqual([itemAt(before, 0), itemAt(before, 4), itemAt(before, 5), ...moved, ...before.slice(6)]);
  await page.keyboard.press("Alt+ArrowLeft");
  await expect
    .poll(orderOf)
    .toEqual([itemAt(before, 0), itemAt(before, 4), ...moved, itemAt(before, 5), ...before.slice(6)]);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect.poll(orderOf).toEqual(before);
});

test("an edge moves by frames with Alt, by pointer and by keyboard, and G lays it on the beat again", async ({
  page,
}) => {
  await openScore(page);
  const before = await plannedFilm(app, showId);
  const box = present(await landing(page, 5).boundingBox());
  const at = { x: box.x + box.width / 2, y: box.y + 20 };
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.keyboard.down("Alt");
  await page.mouse.move(at.x + 33, at.y, { steps: 8 });
  await page.mouse.up();
  await page.keyboard.up("Alt");
  const lockOf = async () => itemAt((await document()).slides, 5).landingLock;
  await expect.poll(async () => (await lockOf())?.exact).toBe(true);
  const dragged = itemAt((await plannedFilm(app, showId)).slots, 5);
  expect(dragged.landing).toMatchObject({ kind: "free" });
  expect(Math.abs(present(dragged.landingErrorMs))).toBeLessThan(0.01);
  expect(dragged.startFrame).not.toBe(itemAt(before.slots, 5).startFrame);

  await landing(page, 5).focus();
  await page.keyboard.press("Alt+ArrowRight");
  await expect
    .poll(async () => itemAt((await plannedFilm(app, showId)).slots, 5).startFrame)
    .toBe(dragged.startFrame + 1);
  await page.keyboard.press("g");
  await expect.poll(lockOf).toBeNull();
  expect((await plannedFilm(app, showId)).slots).toEqual(before.slots);
});

test("a passage begins with another picture, by pointer and by keyboard", async ({ page }) => {
  await openScore(page);
  const { passages, slides } = await document();
  const second = itemAt(passages, 1);
  const firstOf = async () => (await document()).slides.findIndex(({ passageId }) => passageId === second.id);
  const was = slides.findIndex(({ passageId }) => passageId === second.id);
  const edge = page.getByTestId("passage-edge").nth(1);
  // Hovering waits until the edge stands still and is what the pointer meets.
  await edge.hover({ position: { x: 8, y: 7 } });
  const box = present(await edge.boundingBox());
  const target = present(await slot(page, was - 2).boundingBox());
  await page.mouse.down();
  await page.mouse.move(box.x + 20, box.y + 2, { steps: 3 });
  await page.mouse.move(target.x + 3, target.y + 20, { steps: 10 });
  await page.mouse.up();
  await expect.poll(firstOf).toBe(was - 2);
  await page.locator(`[data-testid="passage-edge"][data-passage="${second.id}"]`).focus();
  await page.keyboard.press("ArrowRight");
  await expect.poll(firstOf).toBe(was - 1);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect.poll(document).toMatchObject({ slides });
});

test("pictures that are left out wait in the tray and come back by dragging, or by Enter behind the selected one", async ({
  page,
}) => {
  await openScore(page);
  const before = await document();
  await slot(page, 2).click();
  await slot(page, 3).click({ modifiers: ["Control"] });
  await page.getByRole("button", { name: "Leave out 2" }).click();
  const ratings = async () => (await document()).slides.filter(({ rating }) => rating === "out").map(({ id }) => id);
  const [first, second] = [itemAt(before.slides, 2).id, itemAt(before.slides, 3).id];
  await expect.poll(ratings).toEqual([first, second]);
  const waiting = page.getByTestId("tray-picture");
  await expect(waiting).toHaveCount(2);
  // What is selected is dragged together; here it is one.
  await page.keyboard.press("Escape");
  // By pointer, in front of what is shown fifth now.
  const film = await plannedFilm(app, showId);
  const box = present(await waiting.first().boundingBox());
  await dragTo(page, { x: box.x + 20, y: box.y + 20 }, await middleOf(page, 4, 0.2));
  await page.mouse.up();
  await expect.poll(ratings).toEqual([second]);
  const order = await orderOf();
  expect(order.indexOf(first)).toBe(order.indexOf(itemAt(film.slots, 4).slideId) - 1);
  // By keyboard, behind the selected picture.
  await slot(page, 1).click();
  const selected = itemAt((await plannedFilm(app, showId)).slots, 1).slideId;
  await waiting.first().focus();
  await page.keyboard.press("Enter");
  await expect.poll(ratings).toEqual([]);
  await expect(page.getByTestId("tray")).toHaveCount(0);
  const now = await orderOf();
  expect(now.indexOf(second)).toBe(now.indexOf(selected) + 1);
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await expect.poll(document).toEqual(before);
});

test("pictures are selected by keys and changed as a batch; Enter and a double click open Dress", async ({ page }) => {
  await openScore(page);
  const before = await document();
  await slot(page, 0).click();
  await page.keyboard.press("Control+ArrowRight");
  await page.keyboard.press("Control+Shift+ArrowRight");
  await page.keyboard.press("Control+Shift+ArrowRight");
  await expect(page.getByTestId("selection-facts")).toContainText("3 of them in the film");
  await page.keyboard.press("h");
  const heroes = async () =>
    (await document()).slides.map(({ hero }, index) => (hero ? index : -1)).filter((i) => i > 0);
  const had = before.slides.map(({ hero }, index) => (hero ? index : -1)).filter((i) => i > 0);
  await expect.poll(heroes).toEqual([...new Set([...had, 1, 2, 3])].sort((a, b) => a - b));
  await page.keyboard.press("l");
  const locks = async () => (await document()).slides.filter(({ landingLock }) => landingLock).length;
  await expect.poll(locks).toBe(3);
  await page.getByRole("button", { name: "Fit 3 again" }).click();
  await expect.poll(locks).toBe(0);
  await page.getByLabel("Set a length for 3, in seconds").fill("2.4");
  await expect
    .poll(async () => (await document()).slides.slice(1, 4).map(({ length }) => length?.seconds))
    .toEqual([2.4, 2.4, 2.4]);
  await page.getByRole("heading", { name: "3 pictures selected" }).click();
  for (let i = 0; i < 4; i++) await page.keyboard.press("Control+z");
  await expect.poll(document).toEqual(before);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("heading", { name: "Slide", exact: true })).toBeVisible();

  await slot(page, 3).dblclick();
  await expect(page).toHaveURL(/\/dress$/);
  await page.goBack();
  await slot(page, 3).click();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/dress$/);
});

test("what lands, and how far ahead, is chosen on Dress and holds for every change of picture", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/dress`);
  await page.getByRole("radio", { name: "Change" }).click();
  await page
    .getByRole("radiogroup", { name: "Point that lands on the beat" })
    .getByRole("radio", { name: "Start" })
    .click();
  await page.getByRole("radiogroup", { name: "Frames ahead of the beat" }).getByRole("radio", { name: "2" }).click();
  await expect.poll(async () => (await document()).transitionLanding).toEqual({ point: "start", leadFrames: 2 });
  const { slots, rate, leadFrames } = await plannedFilm(app, showId);
  for (const { startFrame, transitionIn, landing: place } of slots.slice(1)) {
    expect(transitionIn.startFrame).toBe(startFrame);
    const error = (startFrame + leadFrames) * (rate.den / rate.num) - present(place).seconds;
    expect(Math.abs(error)).toBeLessThanOrEqual(0.5 * (rate.den / rate.num) + 1e-9);
  }
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document()).transitionLanding.leadFrames).toBe(0);
});

test("the close-up tells the landing under the playhead and its error in milliseconds", async ({ page }) => {
  await openScore(page);
  const { slots } = await plannedFilm(app, showId);
  const shown = itemAt(slots, 4);
  await slot(page, 4).click();
  const error = present(shown.landingErrorMs);
  await expect(page.getByTestId("close-up-words")).toHaveText(
    `Slot 5 lands on ${landingText(present(shown.landing))} at ${present(shown.landing).seconds.toFixed(3)} s, ` +
      `with frame ${shown.startFrame}: ${error > 0 ? "+" : ""}${error.toFixed(1)} ms`,
  );
  const strip = present(await page.getByTestId("close-up").boundingBox());
  const timecode = page.getByTestId("timecode");
  const was = await timecode.textContent();
  await page.mouse.move(strip.x + 400, strip.y + 50);
  await page.mouse.down();
  await page.mouse.move(strip.x + 200, strip.y + 50, { steps: 5 });
  await page.mouse.up();
  await expect(timecode).not.toHaveText(present(was));
});

test("two hundred steps can be undone after a reload, and redone", async ({ page }) => {
  test.slow();
  // A show of nine pictures: what is tried is the number of steps, not how a film is laid.
  const { id } = present((await showsOf(app)).find(({ title }) => title === "Dance on the quay"));
  const first = page.getByTestId("picture").first();
  const hero = async (): Promise<boolean> => itemAt((await savedShow(app, id)).document.slides, 0).hero;
  const before = await hero();
  await page.goto(`${app.address}/shows/${id}/gather`);
  await first.click();
  for (let step = 0; step < 205; step++) await page.keyboard.press("h");
  await expect.poll(hero).toBe(!before);
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  // An edit is written down a moment after it was made.
  await page.waitForTimeout(1500);
  await page.reload();
  await expect(first).toBeVisible();
  const undo = page.getByRole("button", { name: /^Undo/ }).first();
  for (let step = 0; step < 199; step++) await page.keyboard.press("Control+z");
  await expect(undo).toBeEnabled();
  await page.keyboard.press("Control+z");
  await expect(undo).toBeDisabled();
  // The five oldest of 205 changes are gone for good: an odd number.
  await expect.poll(hero).toBe(!before);
  await page.keyboard.press("Control+Shift+z");
  await expect.poll(hero).toBe(before);
});

test("another song loses no lock: they wait, go to the same bar of the same section, and are back with the song", async ({
  page,
}) => {
  const before = await document();
  const { slots, music } = await plannedFilm(app, showId);
  // Where they are now: near the beginning, in the middle and near the end.
  const places = [4, 30, 56].map((i) => ({
    ...itemAt(slots, i),
    place: songPlaceAt(music, present(itemAt(slots, i).landing).seconds),
  }));
  await editShow(app, showId, (show) =>
    places.reduce((next, { slideId, place }) => lockLanding(next, slideId, place), show),
  );
  const locked = await document();
  await page.goto(`${app.address}/shows/${showId}/gather`);
  const other = path.join(app.folder, "demo-files", "music", "Last Dance on the Quay.wav");
  await page.getByLabel("Choose pictures, clips and a song").setInputFiles(other);
  // Nothing is replaced before a person says so.
  const sound = page.getByTestId("waiting-sound");
  await expect(sound).toContainText("Last Dance on the Quay.wav");
  expect((await document()).songs).toEqual(locked.songs);
  await sound.getByRole("button", { name: "Replace the song" }).click();
  await expect(
    page.getByText(/“Lanterns on the Water.wav” is kept with all that you set. 3 locks of it wait/),
  ).toBeVisible();
  await expect.poll(async () => openLocks(await document()).length).toBe(3);

  await page.getByRole("link", { name: /^Score/ }).click();
  const panel = page.getByRole("region", { name: "Locks from before" });
  await expect(panel).toContainText(/[123] of 3 locks ha(s|ve) a place in “Last Dance on the Quay.wav”/);
  await expect(panel.getByTestId("open-lock")).toHaveCount(3);
  const count = Number(present(/(\d) of 3/.exec(present(await panel.textContent())))[1]);
  await panel.getByRole("button", { name: `Place ${count}`, exact: true }).click();
  await expect.poll(async () => openLocks(await document()).length).toBe(3 - count);
  const placed = await document();
  const kept = placed.slides.flatMap(({ landingLock }) => (landingLock ? [landingLock] : []));
  expect(kept.filter(({ songId }) => songId === itemAt(placed.songs, 0).id)).toHaveLength(count);
  // What is placed holds: the film has it there, on a beat.
  expect((await plannedFilm(app, showId)).slots.filter((one) => one.locked)).toHaveLength(count);
  await panel
    .getByTestId("open-lock")
    .first()
    .getByRole("button", { name: /^Free / })
    .click();
  await expect.poll(async () => openLocks(await document()).length).toBe(2 - count);
  for (let i = 0; i < 2; i++) await page.keyboard.press("Control+z");
  await expect.poll(async () => openLocks(await document()).length).toBe(3);

  await panel.getByRole("button", { name: "Back to the song before" }).click();
  await expect(panel).toHaveCount(0);
  await expect.poll(async () => (await document()).songs).toEqual(locked.songs);
  expect((await document()).slides).toEqual(locked.slides);
  await editShow(app, showId, () => ({ ...before, formerSongs: [] }));
});

test("keys move a landing through the rows and back: the focus stays with it, and the playhead stays where it is", async ({
  page,
}) => {
  await openScore(page);
  const landing = page.locator('[data-testid="landing"][data-slot="2"]');
  const rowOf = (): Promise<string | null> =>
    page.locator(":focus").evaluateAll(([focused]) => focused?.closest("[data-row]")?.getAttribute("data-row") ?? null);
  const was = await landing.getAttribute("data-seconds");
  await landing.focus();
  const [frame, first] = [await page.getByTestId("stage").getAttribute("data-frame"), await rowOf()];
  const rows = new Set<string | null>();
  // Faster than the film is laid again.
  for (let i = 0; i < 24; i++) {
    await page.keyboard.press("ArrowRight");
    rows.add(await rowOf());
  }
  await expect.poll(rowOf).not.toBe(first);
  await expect(landing).toBeFocused();
  await expect(landing).not.toHaveAttribute("data-seconds", present(was));
  expect(await page.getByTestId("stage").getAttribute("data-frame")).toBe(frame);
  await page.keyboard.press("l");
  for (let i = 0; i < 30; i++) await page.keyboard.press("Control+z");
  await expect(landing).toHaveAttribute("data-seconds", present(was));
});

test("the whole song is in sight at once, on a screen of any size, and stays so", async ({ page }) => {
  await openScore(page);
  const sizes = page.getByRole("radiogroup", { name: "Height of the rows" });
  await sizes.getByRole("radio", { name: "Whole song" }).click();
  const scroller = page.getByTestId("score");
  const rows = page.getByTestId("score-row");
  /** Rows that are missing, and pixels of the last one that are below the edge. */
  const outOfSight = async (): Promise<[missing: number, pixels: number]> => {
    const missing = Number(await scroller.getAttribute("data-rows")) - (await rows.count());
    const [frame, last] = [present(await scroller.boundingBox()), present(await rows.last().boundingBox())];
    return [missing, Math.max(0, Math.round(last.y + last.height - frame.y - frame.height))];
  };
  for (const size of [
    { width: 1280, height: 800 },
    { width: 1024, height: 700 },
    { width: 2560, height: 1440 },
  ]) {
    await page.setViewportSize(size);
    await expect.poll(outOfSight).toEqual([0, 0]);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.reload();
  await expect(sizes.getByRole("radio", { name: "Whole song" })).toBeChecked();
  await expect.poll(outOfSight).toEqual([0, 0]);
  await sizes.getByRole("radio", { name: "M", exact: true }).click();
});

test("Space plays from wherever the pointer was last; what Tab has led to takes the key itself", async ({ page }) => {
  await openScore(page);
  await expect(page.getByRole("button", { name: "Play" })).toBeEnabled();
  const playing = page.getByRole("button", { name: "Stop", exact: true });
  for (const control of [
    page.getByRole("radiogroup", { name: "Height of the rows" }).getByRole("radio", { name: "L", exact: true }),
    page
      .getByRole("button", { name: "Full", exact: true })
      .or(page.getByRole("button", { name: "Draft", exact: true })),
    page.getByRole("radiogroup", { name: "Who leads" }).getByRole("radio", { name: "Song" }),
  ]) {
    if (!(await control.isVisible())) continue;
    await control.click();
    await page.keyboard.press("Space");
    await expect(playing).toBeVisible();
    await page.keyboard.press("Space");
    await expect(playing).toHaveCount(0);
  }
  await page.getByRole("button", { name: "Go to start" }).focus();
  await page.keyboard.press("Tab");
  await expect(page.getByRole("button", { name: "Play" })).toBeFocused();
  await page.keyboard.press("Space");
  await expect(playing).toBeFocused();
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Play" })).toBeFocused();
});
