import { itemAt, present } from "@humming-tide/core/presence";
import { newWords, type ShowDocument, type Slide } from "@humming-tide/core/show";
import type { View } from "@humming-tide/core/values";
import { expect, type Locator, type Page, test } from "@playwright/test";
import sharp from "sharp";
import { allSaved, leaveSaved } from "./all-saved.ts";
import { copyDemo, plannedFilm, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

test.describe.configure({ mode: "serial" });

let app: RunningApp;
let showId: string;

test.beforeAll(async () => {
  app = await startApp(copyDemo);
  showId = itemAt(await showsOf(app), 0).id;
});
test.afterEach(leaveSaved);
test.afterAll(() => app.close());

const document = async (): Promise<ShowDocument> => (await savedShow(app, showId)).document;
const slideAt = async (index: number): Promise<Slide> => itemAt((await document()).slides, index);
const radio = (page: Page, group: string, name: string): Locator =>
  page.getByRole("radiogroup", { name: group, exact: true }).getByRole("radio", { name, exact: true });

async function openDress(page: Page): Promise<void> {
  await page.goto(`${app.address}/shows/${showId}/dress`);
  await expect(page.getByRole("radiogroup", { name: "Apply to" })).toBeVisible();
}

const openPart = (page: Page, part: "Picture" | "Change" | "Look" | "Words"): Promise<void> =>
  radio(page, "What of it", part).click();

/**
 * Every edit made so far lies on the server: what is read now is the end of a drag, not its middle.
 */
/** A sample of a canvas's pixels. */
async function pixels(canvas: Locator): Promise<number[]> {
  return canvas.evaluate((element: HTMLCanvasElement) => {
    const { data } = element.getContext("2d")!.getImageData(0, 0, element.width, element.height);
    return [...data.filter((_, i) => i % 61 === 0)];
  });
}
const difference = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, value, i) => sum + Math.abs(value - itemAt(b, i)), 0) / a.length;

/**
 * The pixels of a canvas once its pictures have arrived: bright, and the same twice. Its alpha
 * alone makes a mean of 64.
 */
async function settled(canvas: Locator): Promise<number[]> {
  let last: number[] = [];
  await expect
    .poll(async () => {
      const now = await pixels(canvas);
      const isSame = now.length === last.length && difference(now, last) === 0;
      last = now;
      return isSame ? now.reduce((sum, value) => sum + value, 0) / now.length : 0;
    })
    .toBeGreaterThan(80);
  return last;
}

test("a transition is chosen for the show, differently for a passage and a slide, and given back", async ({ page }) => {
  await openDress(page);
  await openPart(page, "Change");
  await radio(page, "Kind of transition", "Wipe").click();
  await radio(page, "Direction of the wipe", "down and left").click();
  await radio(page, "Unit of the length", "Beats").click();
  await radio(page, "Length of the transition", "2").click();
  await expect
    .poll(async () => (await document()).style.transition)
    .toMatchObject({ kind: "wipe", direction: "down-left", length: { unit: "beats", count: 2 } });
  const { slots, music, rate } = await plannedFilm(app, showId);
  const long = present(
    slots.find(({ name, isTransitionShortened }) => name.includes("painting 2") && !isTransitionShortened),
  );
  expect(long.transitionIn.kind).toBe("wipe");
  const beat = itemAt(music.grid.beats, 1).seconds - itemAt(music.grid.beats, 0).seconds;
  const { startFrame, endFrame } = long.transitionIn;
  expect(Math.abs((endFrame - startFrame) * (rate.den / rate.num) - 2 * beat)).toBeLessThan(0.12);

  await radio(page, "Apply to", "Its passage").click();
  await radio(page, "Kind of transition", "Iris").click();
  await radio(page, "Apply to", "This slide").click();
  await radio(page, "Kind of transition", "Cut").click();
  await expect.poll(async () => (await slideAt(0)).style.transition).toEqual({ kind: "cut" });
  const { passages } = await document();
  expect(itemAt(passages, 0).style.transition).toMatchObject({ kind: "iris" });
  await page.getByRole("region", { name: "Transition" }).getByRole("button", { name: "as the passage" }).click();
  await expect.poll(async () => (await slideAt(0)).style.transition).toBeNull();
  await expect(radio(page, "Kind of transition", "Iris")).toBeChecked();
  for (let i = 0; i < 8; i++) await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document()).style.transition.kind).toBe("dissolve");
});

test("varied transitions are drawn by lot from a set, and drawn again on wish", async ({ page }) => {
  await openDress(page);
  await openPart(page, "Change");
  await radio(page, "Kind of transition", "Varied").click();
  await page.getByRole("checkbox", { name: "Page turn" }).check();
  await expect
    .poll(async () => (await document()).style.transition)
    .toMatchObject({ kind: "vary", kinds: expect.arrayContaining(["page-turn"]) });
  const kinds = async (): Promise<string> =>
    (await plannedFilm(app, showId)).slots.map(({ transitionIn }) => transitionIn.kind).join();
  const before = await kinds();
  const { transition } = (await document()).style;
  const set: readonly string[] = transition.kind === "vary" ? transition.kinds : [];
  expect(set).toContain("page-turn");
  const painting = (await plannedFilm(app, showId)).slots.filter(({ name }) => name.includes("painting"));
  for (const [i, { transitionIn }] of painting.slice(1).entries()) {
    expect(set).toContain(transitionIn.kind);
    expect(transitionIn.kind).not.toBe(i > 0 ? itemAt(painting, i).transitionIn.kind : "");
  }
  await openPart(page, "Picture");
  await page.getByRole("button", { name: "Shuffle moves" }).click();
  await expect.poll(kinds).not.toBe(before);
  await page.keyboard.press("Control+z");
  await expect.poll(kinds).toBe(before);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document()).style.transition.kind).toBe("dissolve");
});

test("pictures move by rule, as strongly as is wished, and not at all in one press; the stage shows it", async ({
  page,
}) => {
  await openDress(page);
  const moving = async (): Promise<number> =>
    (await plannedFilm(app, showId)).slots.filter(
      ({ move }) => move.start.width !== move.end.width || move.start.y !== move.end.y,
    ).length;
  expect(await moving()).toBeGreaterThan(50);
  const stage = page.getByTestId("stage");
  await page.getByLabel("Place in the film, in frames").fill("30");
  await expect(stage).toHaveAttribute("data-frame", "30");
  const one = await settled(stage);
  await page.getByLabel("Place in the film, in frames").fill("60");
  await expect(stage).toHaveAttribute("data-frame", "60");
  expect(difference(one, await settled(stage))).toBeGreaterThan(0.3);
  await page.getByRole("checkbox", { name: "No moves in the whole show" }).check();
  await expect.poll(moving).toBe(0);
  await page.keyboard.press("Control+z");
  await expect.poll(moving).toBeGreaterThan(50);
  const strength = page.getByRole("slider", { name: "Strength" });
  await strength.focus();
  await page.keyboard.press("End");
  await expect.poll(async () => (await document()).style.move.strength).toBe(1);
  await page.getByRole("checkbox", { name: /Starts with the music/ }).check();
  await expect.poll(async () => (await plannedFilm(app, showId)).slots.some(({ move }) => move.eased)).toBe(true);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document()).style.move.strength).toBe(0.5);
});

test("the subject is moved by pointer and keys, and every output follows it", async ({ page }) => {
  await openDress(page);
  await radio(page, "Apply to", "This slide").click();
  for (let i = 0; i < 3; i++) await page.keyboard.press("Alt+ArrowRight");
  await expect(page.getByText("04", { exact: false }).first()).toBeVisible();
  await radio(page, "What stands beside a picture", "Crop to the subject").click();
  await expect.poll(async () => (await slideAt(3)).style.fill).toEqual({ kind: "crop" });
  const square = page.getByTestId("output-1:1");
  const before = await settled(square);
  const ring = page.getByRole("slider", { name: "Subject of the picture" });
  const box = present(await ring.boundingBox());
  const stage = present(await page.getByTestId("stage").boundingBox());
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(stage.x + stage.width * 0.9, stage.y + stage.height * 0.9, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => (await slideAt(3)).subject?.y ?? 0).toBeGreaterThan(0.55);
  await allSaved(page);
  const dragged = present((await slideAt(3)).subject);
  await expect.poll(async () => difference(before, await pixels(square))).toBeGreaterThan(2);
  await ring.focus();
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowUp");
  await expect.poll(async () => present((await slideAt(3)).subject).y).toBeCloseTo(dragged.y - 0.02, 3);
  await page.getByRole("button", { name: "As found" }).click();
  await expect.poll(async () => (await slideAt(3)).subject).toBeNull();
});

test("a frame is set by hand for one shape of film, and the rule takes it back", async ({ page }) => {
  await openDress(page);
  await radio(page, "Apply to", "This slide").click();
  await page.getByRole("button", { name: /Show 9:16 on the stage/ }).click();
  await radio(page, "Frame by hand", "Set its end").click();
  const frame = page.getByRole("slider", { name: "Frame at the end" });
  const nearness = page.getByRole("slider", { name: "Zoom" });
  await nearness.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("PageUp");
  await expect.poll(async () => (await slideAt(0)).views.length).toBe(1);
  const box = present(await frame.boundingBox());
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - 60, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => itemAt((await slideAt(0)).views, 0).end.centre.x).toBeGreaterThan(0.5);
  await allSaved(page);
  const [view] = (await slideAt(0)).views;
  expect(present(view).shape).toBe("9:16");
  expect(present(view).end.zoom).toBeGreaterThan(present(view).start.zoom);
  await frame.focus();
  await page.keyboard.press("ArrowRight");
  await expect
    .poll(async () => itemAt((await slideAt(0)).views, 0).end.centre.x)
    .toBeLessThan(present(view).end.centre.x);
  // The wheel makes it larger around the pointer, which stays over the same place of the picture.
  const endNow = async (): Promise<View> => itemAt((await slideAt(0)).views, 0).end;
  const before = await endNow();
  await page.mouse.move(box.x + box.width / 4, box.y + box.height / 2);
  await page.mouse.wheel(0, -300);
  await expect.poll(async () => (await endNow()).zoom / before.zoom).toBeCloseTo(1.001 ** 300, 2);
  expect((await endNow()).centre.x).toBeLessThan(before.centre.x);
  await frame.focus();
  const larger = (await endNow()).zoom;
  await page.keyboard.press("-");
  await expect.poll(async () => (await endNow()).zoom).toBeLessThan(larger);
  // The film in its own shape is as it was.
  expect(itemAt((await plannedFilm(app, showId)).slots, 0).move).toBeTruthy();
  await page.getByRole("button", { name: "Back to automatic" }).click();
  await expect.poll(async () => (await slideAt(0)).views).toEqual([]);
});

test("the style of one slide is given to a selection, and safe areas lie over the stage", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/score`);
  const block = (index: number): Locator => page.getByTestId("slot").nth(index);
  await block(1).click();
  await block(4).click({ modifiers: ["Shift"] });
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/dress$/);
  await expect(radio(page, "Apply to", "4 slides")).toBeChecked();
  await radio(page, "Move", "Still").click();
  await expect
    .poll(async () => (await document()).slides.filter(({ style }) => style.move?.kind === "still").length)
    .toBe(4);
  await page.getByRole("button", { name: "Give all of them the style of this one" }).click();
  await page.keyboard.press("s");
  await expect(page.getByTestId("safe-areas")).toBeVisible();
  await page.keyboard.press("s");
  await expect(page.getByTestId("safe-areas")).toHaveCount(0);
});

test("slides are gone to and selected in the strip, and a passage is seen on one sheet", async ({ page }) => {
  await openDress(page);
  const strip = page.getByRole("list", { name: "Slides of the film" });
  const item = (index: number): Locator => strip.getByRole("button").nth(index);
  await item(2).click();
  await expect(item(2)).toHaveAttribute("aria-current", "true");
  const name = (await item(2).getAttribute("title")) ?? "";
  await expect(page.getByRole("banner").or(page.locator("aside header")).getByText(name)).toBeVisible();
  await item(4).click({ modifiers: ["Shift"] });
  await expect(radio(page, "Apply to", "3 slides")).toBeVisible();
  await item(1).click();
  await page.keyboard.press("v");
  const sheet = page.getByTestId("contact-sheet");
  await expect(sheet.locator("canvas").first()).toBeVisible();
  const film = await plannedFilm(app, showId);
  const show = await document();
  const first = itemAt(show.slides, itemAt(film.slots, 1).slideIndex).passageId;
  const wanted = film.slots.filter(
    ({ slideIndex, round }) => round === 0 && show.slides[slideIndex]?.passageId === first,
  );
  await expect(sheet.getByRole("button")).toHaveCount(wanted.length);
  await sheet.getByRole("button").nth(3).click();
  await expect(item(3)).toHaveAttribute("aria-current", "true");
});

test("words are written on a slide: seen on the stage, measured against the picture, and laid on a ground", async ({
  page,
}) => {
  await openDress(page);
  await radio(page, "Apply to", "This slide").click();
  await openPart(page, "Words");
  const stage = page.getByTestId("stage");
  for (let i = 0; i < 4; i++) await page.keyboard.press("Alt+ArrowRight");
  await expect(page.getByText("05 painting 5.jpg")).toBeVisible();
  const bare = await settled(stage);
  await page.getByLabel("Caption", { exact: true }).fill("The last coat of paint 🎨 and שלום");
  await expect.poll(async () => difference(bare, await pixels(stage))).toBeGreaterThan(0.1);
  await expect(page.getByText(/Contrast with the picture/)).toBeVisible();
  await page.getByRole("button", { name: "Words", exact: true }).click();
  await page.getByRole("menuitem", { name: "Lower third" }).click();
  // The cursor is there already, and an example is not part of the film.
  await expect(page.getByLabel("Lower third", { exact: true })).toBeFocused();
  await expect(page.getByLabel("Lower third", { exact: true })).toHaveValue("");
  await page.keyboard.type("Crew of the Firefly");
  await page.keyboard.press("Enter");
  await page.keyboard.type("first across the line");
  await radio(page, "Place of the lower third", "Top right").click();
  await expect
    .poll(async () => (await slideAt(4)).words)
    .toEqual([{ ...newWords("lower-third", "Crew of the Firefly\nfirst across the line"), place: "top-right" }]);
  const slot = itemAt((await plannedFilm(app, showId)).slots, 4);
  expect(slot.words.sheet.map(({ kind }) => kind)).toEqual(["caption", "lower-third"]);
  // Letters in the colour of the picture cannot be read; a ground is offered and makes them
  // readable.
  await page.getByLabel("Colour of the letters: any").fill("#c9b99a");
  const offer = page.getByRole("button", { name: "Add a soft background" }).first();
  await offer.click();
  await expect(page.getByText(/good to read/).first()).toBeVisible();
  expect((await slideAt(4)).style.letters?.backing).not.toBeNull();
  await page.getByLabel("Lower third", { exact: true }).fill("港");
  await expect(page.getByText(/No font here has “港”/)).toBeVisible();
  await page.getByRole("button", { name: "Remove the lower third" }).click();
  await expect.poll(async () => (await slideAt(4)).words).toEqual([]);
  await page.getByRole("region", { name: "Letters" }).getByRole("button", { name: "as the passage" }).click();
  await expect.poll(async () => (await slideAt(4)).style.letters).toBeNull();
  await page.getByLabel("Caption", { exact: true }).fill("");
  await expect.poll(async () => difference(bare, await settled(stage))).toBeLessThan(0.05);
});

test("a title set is chosen by its look, and one line of a block gets letters of its own", async ({ page }) => {
  await openDress(page);
  await radio(page, "Apply to", "This slide").click();
  await radio(page, "What of it", "Words").click();
  await radio(page, "Title set", "Lantern").click();
  await expect.poll(async () => (await slideAt(0)).style.letters?.titleSet).toBe("lantern");
  await page.getByRole("button", { name: "Words", exact: true }).click();
  await page.getByRole("menuitem", { name: "Title" }).click();
  await page.getByLabel("Title", { exact: true }).fill("Firefly\n21 June 2031");
  await page.getByRole("button", { name: "Letters of these words" }).click();
  await page.getByLabel("Appear", { exact: true }).selectOption({ label: "Line by line" });
  await page.getByText("Line 2:").click();
  await page.getByLabel("Font of line 2").selectOption("Cinzel");
  await radio(page, "Capitals of line 2", "Small capitals").click();
  await expect.poll(async () => (await slideAt(0)).words[0]?.lines[1]?.capitals).toBe("small");
  const words = itemAt((await plannedFilm(app, showId)).slots, 0).words;
  const title = itemAt(words.sheet, words.sheet.length - 1);
  expect(title.lines.map(({ font, capitals }) => [font, capitals])).toEqual([
    ["Great Vibes", "as-written"],
    ["Cinzel", "small"],
  ]);
  // A line before it takes nothing away: letters belong to their line.
  await page.getByLabel("Title", { exact: true }).fill("The\nFirefly\n21 June 2031");
  await expect.poll(async () => (await slideAt(0)).words[0]?.lines[2]?.font).toBe("Cinzel");
  await page.getByRole("button", { name: "Remove the title" }).click();
  await page.getByRole("region", { name: "Letters" }).getByRole("button", { name: /^as / }).click();
  await expect.poll(async () => (await slideAt(0)).style.letters).toBeNull();
});

test("a title card goes before a slide, and is seen on Gather and Score; credits go to the end", async ({ page }) => {
  await openDress(page);
  const before = (await document()).slides.length;
  await page.getByRole("button", { name: "Card", exact: true }).click();
  await page.getByRole("menuitem", { name: "Title" }).click();
  await page.getByLabel("Title", { exact: true }).fill("Before the regatta");
  await expect.poll(async () => (await slideAt(0)).words[0]?.text).toBe("Before the regatta");
  const film = await plannedFilm(app, showId);
  expect(film.slots[0]).toMatchObject({ picture: null, name: "“Before the regatta”" });
  await page.getByRole("button", { name: "Card", exact: true }).click();
  await page.getByRole("menuitem", { name: "Credits" }).click();
  await expect.poll(async () => (await document()).slides.at(-1)?.words[0]?.kind).toBe("credits");
  expect((await document()).slides).toHaveLength(before + 2);
  await page.getByRole("link", { name: /^Gather/ }).click();
  await expect(page.getByRole("option", { name: /“Before the regatta”.*card/ })).toBeVisible();
  await expect(page.getByRole("heading", { name: /60 pictures, 2 cards/ })).toBeVisible();
  await page.getByRole("link", { name: /^Score/ }).click();
  await expect(page.getByTestId("slot").first()).toContainText("Before the regatta");
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document()).slides.length).toBe(before);
});

test("a tone, a border, an overlay and a graphic of one's own lie over all pictures", async ({ page }) => {
  await openDress(page);
  await openPart(page, "Look");
  const stage = page.getByTestId("stage");
  await page.getByLabel("Place in the film, in frames").fill("40");
  const plain = await settled(stage);
  const colourful = (data: readonly number[]): number => {
    // Every sixty-first byte: neighbours in the list are of different channels.
    const channels = [0, 1, 2].map((channel) => data.filter((_, i) => (i * 61) % 4 === channel));
    const means = channels.map((list) => list.reduce((sum, one) => sum + one, 0) / list.length);
    return Math.max(...means) - Math.min(...means);
  };
  expect(colourful(plain)).toBeGreaterThan(8);
  await radio(page, "Tone of the pictures", "Monochrome").click();
  const strength = page.getByRole("slider", { name: "Strength of the tone" });
  await strength.focus();
  await page.keyboard.press("End");
  await expect.poll(async () => colourful(await pixels(stage))).toBeLessThan(3);
  await radio(page, "Border of the pictures", "Mat").click();
  await expect.poll(async () => itemAt((await plannedFilm(app, showId)).slots, 1).cell).toMatchObject({ x: 54, y: 54 });
  await radio(page, "Over the picture", "Confetti").click();
  await expect.poll(async () => (await document()).style.overlay.kind).toBe("confetti");
  await page.getByLabel("File of the graphic").setInputFiles({
    name: "notes.png",
    mimeType: "image/png",
    buffer: Buffer.from("this is no picture"),
  });
  await expect(page.getByRole("alert")).toBeVisible();
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200"><circle cx="100" cy="100" r="90" fill="#ff0000"/></svg>`;
  const png = await sharp(Buffer.from(svg)).png().toBuffer();
  const without = await settled(stage);
  await page.getByLabel("File of the graphic").setInputFiles({ name: "ring.png", mimeType: "image/png", buffer: png });
  await expect(page.getByText("ring.png")).toBeVisible();
  await expect.poll(async () => difference(without, await pixels(stage))).toBeGreaterThan(0.3);
  await radio(page, "Place of the graphic", "Top left").click();
  await expect.poll(async () => (await document()).style.graphic).toMatchObject({ kind: "own", place: "top-left" });
  await page.getByRole("button", { name: "No graphic" }).click();
  for (const [group, name] of [
    ["Tone of the pictures", "As taken"],
    ["Border of the pictures", "None"],
    ["Over the picture", "None"],
  ] as const)
    await radio(page, group, name).click();
  await expect.poll(async () => difference(plain, await pixels(stage))).toBeLessThan(0.05);
});

test("pictures of a selection stand on one slide in a layout, and one of them becomes a slide again", async ({
  page,
}) => {
  await page.goto(`${app.address}/shows/${showId}/score`);
  const block = (index: number): Locator => page.getByTestId("slot").nth(index);
  await block(16).click();
  await block(18).click({ modifiers: ["Shift"] });
  await page.keyboard.press("Enter");
  const before = await document();
  await page.getByRole("button", { name: "Put their pictures on one slide" }).click();
  await expect.poll(async () => (await document()).slides.length).toBe(before.slides.length - 2);
  await expect(page.getByRole("heading", { name: "3 pictures on this slide" })).toBeVisible();
  await radio(page, "Layout", "Large at the left").click();
  const at = (await document()).slides.findIndex(({ more }) => more.length > 0);
  await expect.poll(async () => (await slideAt(at)).layout.kind).toBe("large-left");
  const { slots } = await plannedFilm(app, showId);
  const slot = present(slots.find(({ slideIndex }) => slideIndex === at));
  expect(slot.beside).toHaveLength(2);
  expect(present(slot.cell).width).toBeGreaterThan(1.5 * itemAt(slot.beside, 0).cell.width);
  await radio(page, "Layout", "Over the picture").click();
  await radio(page, "Place of the pictures", "Top left").click();
  await expect.poll(async () => (await slideAt(at)).layout.place).toBe("top-left");
  const over = present((await plannedFilm(app, showId)).slots.find(({ slideIndex }) => slideIndex === at));
  expect(over.cell).toBeNull();
  expect(over.beside.map(({ isOver, cell }) => [isOver, cell.x < 200])).toEqual([
    [true, true],
    [true, true],
  ]);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  const second = page.getByRole("slider", { name: "Subject of picture 2" });
  await second.focus();
  await page.keyboard.press("ArrowDown");
  await expect.poll(async () => itemAt((await slideAt(at)).more, 0).subject).not.toBeNull();
  await page.getByRole("button", { name: "Own slide" }).first().click();
  await expect.poll(async () => (await document()).slides.length).toBe(before.slides.length - 1);
  for (let i = 0; i < 4; i++) await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document()).slides.length).toBe(before.slides.length);
  // As a fill, upright neighbours stand side by side without a change of slides.
  await openPart(page, "Picture");
  await radio(page, "Apply to", "The show").click();
  await radio(page, "What stands beside a picture", "Its neighbours").click();
  await expect
    .poll(async () => (await plannedFilm(app, showId)).slots.filter(({ beside }) => beside.length > 0).length)
    .toBeGreaterThan(0);
  await page.keyboard.press("Control+z");
});

test("a clip plays in its slot: the stage shows the second of each frame, standing and playing", async ({ page }) => {
  const race = present((await showsOf(app)).find(({ title }) => title.startsWith("The race")));
  const plan = await plannedFilm(app, race.id);
  const slot = present(
    plan.slots.find(({ clip, endFrame, startFrame }) => clip !== null && endFrame - startFrame > 40),
  );
  await page.goto(`${app.address}/shows/${race.id}/dress`);
  const stage = page.getByTestId("stage");
  const slider = page.getByLabel("Place in the film, in frames");
  const at = async (frame: number): Promise<number[]> => {
    await slider.fill(String(frame));
    await expect(stage).toHaveAttribute("data-frame", String(frame));
    return pixels(stage);
  };
  const [first, later] = [slot.transitionIn.endFrame + 2, slot.transitionIn.endFrame + 26];
  // Until its playable copy is made the poster stands there, and nothing differs.
  await expect
    .poll(
      async () => {
        await at(first);
        await page.waitForTimeout(300);
        const early = await pixels(stage);
        await at(later);
        await page.waitForTimeout(300);
        return difference(early, await pixels(stage));
      },
      { timeout: 120_000 },
    )
    .toBeGreaterThan(0.5);
  const before = await at(first);
  await slider.blur();
  await page.getByRole("button", { name: "Play", exact: true }).click();
  await expect.poll(async () => Number(await stage.getAttribute("data-frame"))).toBeGreaterThan(first + 15);
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  expect(difference(before, await pixels(stage))).toBeGreaterThan(0.3);
});
