import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { mainOutput, type ShowDocument, type Voice } from "@humming-tide/core/show";
import { chromium, expect, type Page, test } from "@playwright/test";
import { allSaved, leaveSaved } from "./all-saved.ts";
import { BROWSER } from "./browser.ts";
import { copyDemo, editShow, plannedFilm, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

test.describe.configure({ mode: "serial" });

let app: RunningApp;
let showId: string;
let folder: string;

test.beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "humming-tide-sound-"));
  app = await startApp(copyDemo);
  showId = itemAt(await showsOf(app), 0).id;
});
test.afterEach(leaveSaved);
test.afterAll(async () => {
  await app.close();
  await rm(folder, { recursive: true, force: true });
});

const document = async (): Promise<ShowDocument> => (await savedShow(app, showId)).document;
const voices = async (): Promise<Voice[]> => (await document()).voices;
async function openSound(page: Page, id = showId): Promise<void> {
  await page.goto(`${app.address}/shows/${id}/score`);
  await expect(page.getByTestId("score")).toBeVisible();
  await page.getByRole("radio", { name: "Sound", exact: true }).click();
  await expect(page.getByRole("region", { name: "Voices" })).toBeVisible();
}

test("a voice lies under the rows, is moved by pointer and keys, stays with its slide, and the music makes room", async ({
  page,
}) => {
  await openSound(page);
  const block = page.getByTestId("voice-block").first();
  await expect(block).toContainText("greeting.wav");
  await expect(page.getByTestId("speech-facts")).toContainText("s of speech were found");
  const before = itemAt(await voices(), 0).place;
  await block.focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await expect.poll(async () => itemAt(await voices(), 0).place.seconds).toBeCloseTo(before.seconds + 0.2, 2);
  await page.keyboard.press("Control+z");
  await allSaved(page);
  await expect.poll(async () => itemAt(await voices(), 0).place).toEqual(before);
  const box = present(await block.boundingBox());
  await page.mouse.move(box.x + 40, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 240, box.y + 10, { steps: 6 });
  await page.mouse.up();
  await allSaved(page);
  const moved = itemAt(await voices(), 0).place;
  expect(moved.slideId).not.toBe(before.slideId);
  const plan = await plannedFilm(app, showId);
  const piece = present(plan.sound.pieces.find(({ owner }) => owner.kind === "voice"));
  // Where someone speaks the music is down by what was wished, and between the words and the film's
  // ends it is not.
  expect(Math.min(...plan.ducking.map(({ decibels }) => decibels))).toBe(-12);
  expect(plan.speech.length).toBeGreaterThan(1);
  expect(itemAt(plan.speech, 0).startSeconds).toBeGreaterThan(itemAt(piece.time, 0).filmSeconds + 0.4);
  await page.keyboard.press("Control+z");
  await expect.poll(async () => itemAt(await voices(), 0).place).toEqual(before);
});

test("sources are muted, heard alone and given a level; ducking and loudness are chosen; the screen says what the mix is", async ({
  page,
}) => {
  await openSound(page);
  const table = page.getByTestId("loudness");
  await expect(table).toContainText("−14.0 LUFS", { timeout: 120_000 });
  await page.getByRole("radio", { name: "−23" }).click();
  await expect(table).toContainText("−23.0 LUFS");
  await expect.poll(async () => (await document()).mix.targetLufs).toBe(-23);
  await page.getByRole("radio", { name: "Own" }).click();
  await page.getByLabel("Custom loudness, in LUFS").fill("-18");
  await expect(table).toContainText("−18.0 LUFS");
  const voice = page.getByRole("group", { name: "greeting.wav" });
  await voice.getByRole("button", { name: "Mute" }).click();
  await expect.poll(async () => itemAt(await voices(), 0).muted).toBe(true);
  await expect(page.getByTestId("speech-facts")).toContainText("Nobody speaks");
  await voice.getByRole("button", { name: "Mute" }).click();
  await voice.getByLabel(/Level of/).fill("-6");
  await expect.poll(async () => itemAt(await voices(), 0).decibels).toBe(-6);
  await voice.getByRole("button", { name: "Solo" }).click();
  await expect(page.getByText("the exported film has everything")).toBeVisible();
  // Alone, the song's meter rests and the voice's moves.
  await page.getByRole("button", { name: "Play" }).click();
  const level = (owner: string) => async () =>
    Number(await page.locator(`[data-meter="${owner}"]`).getAttribute("aria-valuenow"));
  await expect.poll(level("voice voice 1"), { intervals: [50] }).toBeGreaterThan(-40);
  expect(await level("song song 1")()).toBe(-48);
  await voice.getByRole("button", { name: "Solo" }).click();
  await expect.poll(level("song song 1"), { intervals: [50] }).toBeGreaterThan(-40);
  await page.keyboard.press("Space");
  const depth = page.getByRole("slider", { name: "Lower the music by" });
  await depth.focus();
  await page.keyboard.press("ArrowRight");
  await expect.poll(async () => (await document()).mix.ducking.decibels).toBe(13);
});

test("the music under a voice is shaped by points, by pointer and keys, and goes back to the rule", async ({
  page,
}) => {
  await openSound(page);
  await page.getByRole("list", { name: "Voices" }).getByRole("button").click();
  await page.getByRole("button", { name: "Shape by hand" }).click();
  const points = page.getByTestId("level-point");
  await expect(points.first()).toBeVisible();
  await allSaved(page);
  const count = await points.count();
  const shaped = itemAt(await voices(), 0).musicLevel;
  await points.nth(1).focus();
  await page.keyboard.press("ArrowUp");
  await expect
    .poll(async () => itemAt(itemAt(await voices(), 0).musicLevel, 1).decibels)
    .toBe(itemAt(shaped, 1).decibels + 0.5);
  await page.keyboard.press("Delete");
  await expect(points).toHaveCount(count - 1);
  const box = present(await points.nth(1).boundingBox());
  const grip = { x: box.x + 6, y: box.y + 6 };
  // Points that lie close cover each other: the uppermost is taken.
  const label = await page.evaluate(
    ({ x, y }) => globalThis.document.elementFromPoint(x, y)?.getAttribute("aria-label"),
    grip,
  );
  const index = Number(present(/point (\d+)$/.exec(present(label)))[1]) - 1;
  const held = itemAt(itemAt(await voices(), 0).musicLevel, index);
  await page.mouse.move(grip.x, grip.y);
  await page.mouse.down();
  await page.mouse.move(grip.x, grip.y + 5, { steps: 4 });
  await page.mouse.up();
  await allSaved(page);
  expect(itemAt(itemAt(await voices(), 0).musicLevel, index).decibels).toBeLessThan(held.decibels);
  await page.getByRole("button", { name: "Back to automatic" }).click();
  await expect(points).toHaveCount(0);
  await expect.poll(async () => itemAt(await voices(), 0).musicLevel).toEqual([]);
});

test("a voice is brought in, trimmed, cleaned, and taken out; what has no speech or is too long is said", async ({
  page,
}) => {
  const hum = path.join(folder, "hum.wav");
  execFileSync("ffmpeg", [
    "-v",
    "error",
    "-f",
    "lavfi",
    "-i",
    "sine=frequency=200:sample_rate=22050:duration=230",
    "-ac",
    "1",
    hum,
  ]);
  await openSound(page);
  await page.getByTestId("voice-files").setInputFiles(hum);
  const remarks = page.getByTestId("sound-remarks");
  await expect(remarks).toContainText("No speech was found in “hum.wav”");
  await expect(remarks).toContainText("behind the film's end");
  await page.getByLabel("to", { exact: true }).fill("20");
  await expect.poll(async () => (await voices())[1]?.outSeconds).toBe(20);
  await expect(remarks).not.toContainText("behind the film's end");
  await page.getByLabel(/Reduce noise/).check();
  await expect.poll(async () => (await voices())[1]?.cleaned).toBe(true);
  await page.getByRole("button", { name: "Remove this voice" }).click();
  await expect.poll(async () => (await voices()).length).toBe(1);
  const picture = path.join(folder, "picture.png");
  execFileSync("ffmpeg", ["-v", "error", "-f", "lavfi", "-i", "color=red:size=32x32", "-frames:v", "1", picture]);
  await page.getByTestId("voice-files").setInputFiles(picture);
  await expect(
    page.getByText("“picture.png” has no sound").or(page.getByText('"picture.png" has no sound')),
  ).toBeVisible();
});

/** Two seconds or more: on a busy machine a look may come later than the second that it is for. */
const TWO_SECONDS = /Recording: ([2-9]|\d\d+) s/;

test("a voice is recorded: count-in, level, listen, keep, another take; a recording that is cut off is kept", async () => {
  // Chromium's own device, fed with the demo's greeting.
  const speech = path.join(folder, "speech.wav");
  execFileSync("ffmpeg", [
    "-v",
    "error",
    "-f",
    "lavfi",
    "-i",
    "sine=frequency=300:sample_rate=48000:duration=30,tremolo=f=4:d=0.9",
    "-ac",
    "1",
    speech,
  ]);
  const browser = await chromium.launch({
    executablePath: BROWSER,
    args: [
      "--headless",
      "--no-sandbox",
      "--disable-gpu",
      "--use-fake-ui-for-media-stream",
      "--use-fake-device-for-media-stream",
      `--use-file-for-fake-audio-capture=${speech}`,
    ],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await openSound(page);
    await page.getByRole("button", { name: "Record" }).click();
    const dialog = page.getByRole("dialog");
    await expect
      .poll(async () => Number(await dialog.getByTestId("input-level").getAttribute("aria-valuenow")))
      .toBeGreaterThan(-30);
    await dialog.getByRole("button", { name: "Record" }).click();
    const step = dialog.getByTestId("recording-step");
    await expect(step).toContainText("3");
    await expect(step).toContainText(TWO_SECONDS);
    await dialog.getByRole("button", { name: "Stop" }).click();
    await expect(dialog.getByLabel("Listen to what was recorded")).toBeVisible();
    await dialog.getByRole("button", { name: "Keep" }).click();
    await expect(dialog).toBeHidden();
    await expect.poll(async () => (await voices()).length).toBe(2);
    await expect(page.getByTestId("voice-block").filter({ hasText: "Voice 20" })).toBeVisible();
    await page.getByRole("button", { name: "Another take" }).click();
    await dialog.getByRole("button", { name: "Record" }).click();
    await expect(step).toContainText(TWO_SECONDS);
    // The window goes in the middle of it.
    await page.reload();
    await page.getByRole("radio", { name: "Sound", exact: true }).click();
    await page.getByRole("button", { name: "Use this file" }).click();
    await expect.poll(async () => (await voices())[1]?.takes.length).toBe(2);
    expect(itemAt(await voices(), 1).take).toBe(1);
    const { sha256 } = itemAt(itemAt(await voices(), 1).takes, 1);
    const heard = (await (await fetch(`${app.address}/api/media/${sha256}/speech`)).json()) as {
      durationSeconds: number;
    };
    expect(heard.durationSeconds).toBeGreaterThan(0.9);
  } finally {
    await browser.close();
  }
});

test("the sound of a clip: beside the music, as speech, before its picture and behind it", async ({ page }) => {
  const race = present((await showsOf(app)).find(({ title }) => title.startsWith("The race")));
  await openSound(page, race.id);
  const block = page.getByTestId("clip-sound").first();
  await expect(block).toBeAttached();
  const slide = present((await savedShow(app, race.id)).document.slides.find(({ sound }) => sound !== null));
  await page.getByRole("radio", { name: "Slides", exact: true }).click();
  const picture = page.locator(`[data-slide="${slide.id}"]`).first();
  await picture.scrollIntoViewIfNeeded();
  await picture.click();
  const fields = page.getByRole("group", { name: "Sound of the clip" });
  await fields.getByRole("radio", { name: "Speech" }).click();
  await fields.getByLabel("Heard before its picture for").fill("0.5");
  const soundOf = async () =>
    present(present((await savedShow(app, race.id)).document.slides.find(({ id }) => id === slide.id)).sound);
  await expect.poll(async () => (await soundOf()).leadSeconds).toBe(0.5);
  expect((await soundOf()).kind).toBe("speech");
  await fields.getByRole("radio", { name: "Muted" }).click();
  await expect(fields.getByLabel("Heard before its picture for")).toBeHidden();
});

test("the exported film is as loud as was wished and never clips, as ffmpeg judges it", async () => {
  const film = path.join(folder, "film.mp4");
  // Half a minute is enough to measure, and soon made.
  await editShow(app, showId, (show) => ({
    ...show,
    lead: { kind: "length", seconds: 30 },
    mix: { ...show.mix, targetLufs: -18 },
    outputs: [{ ...mainOutput(show), size: { width: 320, height: 180 } }],
  }));
  const [job] = (await (
    await fetch(`${app.address}/api/shows/${showId}/exports`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ outputIds: ["main"] }),
    })
  ).json()) as { id: string; state: string }[];
  const state = async (): Promise<string> => {
    const jobs = (await (await fetch(`${app.address}/api/shows/${showId}/exports`)).json()) as {
      id: string;
      state: string;
    }[];
    return present(jobs.find(({ id }) => id === present(job).id)).state;
  };
  await expect.poll(state, { timeout: 280_000, intervals: [1000] }).toBe("done");
  writeFileSync(
    film,
    Buffer.from(await (await fetch(`${app.address}/api/exports/${present(job).id}/film`)).arrayBuffer()),
  );
  const said = execFileSync("sh", [
    "-c",
    `ffmpeg -hide_banner -nostats -i "${film}" -map 0:a -af ebur128=peak=true -f null - 2>&1`,
  ]).toString();
  const summary = said.slice(said.lastIndexOf("Summary:"));
  expect(Math.abs(Number(present(/I:\s+(-?[\d.]+) LUFS/.exec(summary))[1]) + 18)).toBeLessThan(0.2);
  expect(Number(present(/Peak:\s+(-?[\d.]+) dBFS/.exec(summary))[1])).toBeLessThanOrEqual(-1);
});
