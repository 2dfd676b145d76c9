import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { readMarks } from "@humming-tide/core/interchange";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import type { Marker, ShowSong } from "@humming-tide/core/show";
import { expect, type Page, test } from "@playwright/test";
import { leaveSaved } from "./all-saved.ts";
import { copyDemo, plannedFilm, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/** Markers, level, files and the library of Listen, on the demo. */
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

const savedSong = async (): Promise<ShowSong> => itemAt((await savedShow(app, showId)).document.songs, 0);
const markers = async (): Promise<readonly Marker[]> => (await savedSong()).markers;

async function openListen(page: Page, tool: "Grid" | "Taps" | "Markers" | "Songs"): Promise<void> {
  await page.goto(`${app.address}/shows/${showId}/listen`);
  await page.getByRole("radiogroup", { name: "What to work on" }).getByRole("radio", { name: tool }).click();
  await expect(page.getByRole("button", { name: "Play", exact: true })).toBeEnabled({ timeout: 30_000 });
}

/**
 * A place on the curve around the playhead that is eight seconds wide, in the strip of the flags.
 */
async function flagStrip(page: Page, secondsFromPlayhead: number): Promise<{ x: number; y: number }> {
  const box = present(await page.getByTestId("close-curve").boundingBox());
  return { x: box.x + box.width * (0.5 + secondsFromPlayhead / 8), y: box.y + 25 };
}

test("markers are placed, named, moved, dragged to a beat, given another kind and taken away, each undone", async ({
  page,
}) => {
  await openListen(page, "Markers");
  await page.getByTestId("whole-song").click({ position: { x: 300, y: 80 } });
  await page.keyboard.press("m");
  await expect.poll(markers).toHaveLength(1);
  const [placed] = await markers();
  expect(placed).toMatchObject({ kind: "cut", origin: "placed", name: "" });
  await page.getByLabel("Name", { exact: true }).fill("Lanterns are lit");
  await page.getByRole("radiogroup", { name: "Kind", exact: true }).getByRole("radio", { name: "note" }).click();
  await page.getByRole("button", { name: "Move the marker by 10 milliseconds" }).click();
  await expect.poll(async () => itemAt(await markers(), 0).seconds).toBeCloseTo(present(placed).seconds + 0.01, 6);
  expect((await markers())[0]).toMatchObject({ name: "Lanterns are lit", kind: "note" });
  // Dragged by the flag to somewhere near a beat, it goes onto the beat.
  const { music } = await plannedFilm(app, showId);
  const at = itemAt(await markers(), 0).seconds;
  const beat = present(music.grid.beats.find(({ seconds }) => seconds > at + 1)).seconds;
  const from = await flagStrip(page, 0.04);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((await flagStrip(page, beat - at + 0.04 + 0.03)).x, from.y, { steps: 8 });
  await page.mouse.up();
  await expect.poll(async () => itemAt(await markers(), 0).seconds).toBeCloseTo(beat, 4);
  expect((await markers())[0]).toMatchObject({ origin: "placed", name: "Lanterns are lit" });
  // A double click in the strip puts another one there; Escape while dragging changes nothing.
  const free = await flagStrip(page, 2.3);
  await page.mouse.dblclick(free.x, free.y);
  await expect.poll(markers).toHaveLength(2);
  await page
    .getByRole("list", { name: "Markers" })
    .getByRole("button", { name: /Lanterns are lit/ })
    .focus();
  await page.keyboard.press("Delete");
  await expect.poll(markers).toHaveLength(1);
  for (let i = 0; i < 7; i++) await page.keyboard.press("Control+z");
  await expect.poll(markers).toHaveLength(0);
});

test("markers are set on bars and thinned out to phrases; those put by hand stay unless asked", async ({ page }) => {
  await openListen(page, "Markers");
  await page.keyboard.press("m");
  const places = page.getByRole("radiogroup", { name: "Places of the music" });
  await places.getByRole("radio", { name: "bars" }).click();
  await page.getByRole("button", { name: /^Set \d+$/ }).click();
  await expect.poll(async () => (await markers()).length).toBeGreaterThan(60);
  const before = await markers();
  await places.getByRole("radio", { name: "phrases" }).click();
  await page.getByRole("button", { name: "Thin out to these" }).click();
  await expect.poll(async () => (await markers()).length).toBeLessThan(before.length / 2);
  const after = await markers();
  const { music } = await plannedFilm(app, showId);
  const heard = after.filter(({ origin }) => origin === "detected").map(({ seconds }) => seconds);
  expect(heard.length).toBe(music.phrases.length);
  expect(after.filter(({ origin }) => origin === "placed")).toHaveLength(1);
  // The list names each with its place, kind and origin.
  await expect(page.getByRole("list", { name: "Markers" }).getByRole("button").first()).toHaveAccessibleName(
    /^0:00\.\d{3}, cut, (put by hand|heard)$/,
  );
});

test("taps become markers, and marks go out to files and come back", async ({ page }) => {
  await openListen(page, "Taps");
  const count = (await markers()).length;
  await page.getByTestId("whole-song").click({ position: { x: 500, y: 80 } });
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeVisible();
  for (let i = 0; i < 3; i++) {
    await page.waitForTimeout(450);
    await page.keyboard.press("t");
  }
  await page.keyboard.press("Space");
  await page.getByRole("button", { name: "Add as markers" }).click();
  await expect.poll(async () => (await markers()).length).toBe(count + 3);
  await page.getByRole("radiogroup", { name: "What to work on" }).getByRole("radio", { name: "Markers" }).click();
  const saved = async (item: RegExp): Promise<Buffer> => {
    await page.getByRole("button", { name: "Write …" }).click();
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("menuitem", { name: item }).click(),
    ]);
    return readFile(await download.path());
  };
  const now = await markers();
  const csv = readMarks(await saved(/CSV/), "marks.csv");
  expect(csv.markers.map(({ seconds }) => seconds)).toEqual(
    now.map(({ seconds }) => expect.closeTo(seconds, 5) as unknown),
  );
  const cues = readMarks(await saved(/cue points/), "song.wav").markers;
  expect(cues.map(({ seconds }) => seconds)).toEqual(now.map(({ seconds }) => expect.closeTo(seconds, 4) as unknown));
  // A file of another program: its markers are told apart, its beats are the grid.
  const file = path.join(app.folder, "band.csv");
  await writeFile(
    file,
    `seconds,type,position,name\r\n40.2,section,,Chorus\r\n${Array.from({ length: 30 }, (_, i) => `${60 + i * 0.5},beat,${(i % 3) + 1},`).join("\r\n")}\r\n`,
  );
  await page.getByLabel("Read beats and markers").setInputFiles(file);
  await expect(page.getByText("30 beats and 1 marker read from “band.csv”.")).toBeVisible();
  await expect
    .poll(async () => (await markers()).find(({ name }) => name === "Chorus"))
    .toMatchObject({ seconds: 40.2, kind: "section", origin: "imported" });
  const { music } = await plannedFilm(app, showId);
  const inside = music.grid.beats.filter(({ seconds }) => seconds > 59.9 && seconds < 74.6);
  expect(inside.map(({ position }) => position)).toEqual(Array.from({ length: 30 }, (_, i) => (i % 3) + 1));
  await writeFile(file, "seconds,name\r\nsoon,Chorus\r\n");
  await page.getByLabel("Read beats and markers").setInputFiles(file);
  await expect(page.getByText(/“band.csv” was not read\. Line 2: .*"soon".*Nothing was changed\./)).toBeVisible();
  for (let i = 0; i < 4; i++) await page.keyboard.press("Control+z");
  await expect.poll(async () => (await savedSong()).gridEdits).toEqual([]);
});

test("the level is drawn by points, by pointer and keys, and is heard in the film", async ({ page }) => {
  await openListen(page, "Songs");
  const lane = page.getByTestId("level-curve");
  const box = present(await lane.boundingBox());
  await page.mouse.dblclick(box.x + box.width * 0.2, box.y + 12);
  await page.mouse.dblclick(box.x + box.width * 0.6, box.y + 12);
  await expect(page.getByRole("slider", { name: /Point \d of the level/ })).toHaveCount(2);
  const second = page.getByRole("slider", { name: "Point 2 of the level" });
  const dot = present(await second.boundingBox());
  await page.mouse.move(dot.x + dot.width / 2, dot.y + dot.height / 2);
  await page.mouse.down();
  await page.mouse.move(dot.x + dot.width / 2, box.y + 50, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await savedSong()).level[1]?.decibels).toBeLessThan(-12);
  const dragged = itemAt((await savedSong()).level, 1);
  await second.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowRight");
  await expect
    .poll(async () => (await savedSong()).level[1])
    .toEqual({
      seconds: expect.closeTo(dragged.seconds + 0.1, 6) as unknown,
      decibels: dragged.decibels - 0.5,
    });
  // As the song is arranged, before songs are evened out.
  const [piece] = (await plannedFilm(app, showId)).music.pieces;
  expect(lastOf(present(piece).gain).gain).toBeCloseTo(10 ** ((dragged.decibels - 0.5) / 20), 6);
  await second.focus();
  await page.keyboard.press("Delete");
  await expect.poll(async () => (await savedSong()).level).toHaveLength(1);
  await page.getByRole("button", { name: "As recorded" }).click();
  await expect.poll(async () => (await savedSong()).level).toEqual([]);
});

test("sections are named, given a role, split on a bar, joined, and as heard again", async ({ page }) => {
  await openListen(page, "Grid");
  const sections = async () => (await savedSong()).sections;
  await page.getByLabel("Name of section 2").fill("Boats come in");
  await page.getByLabel("Role of section 3").selectOption({ label: "Chorus" });
  await expect
    .poll(async () => (await sections())?.slice(1, 3))
    .toMatchObject([
      { name: "Boats come in", role: null },
      { name: "", role: "chorus" },
    ]);
  const before = present(await sections());
  await page.getByTestId("whole-song").click({ position: { x: 130, y: 80 } });
  await page.getByRole("button", { name: "Split at the playhead" }).click();
  await expect.poll(async () => (await sections())?.length).toBe(before.length + 1);
  const { music } = await plannedFilm(app, showId);
  const starts = before.map(({ startSeconds }) => startSeconds);
  const index = present(await sections()).findIndex(({ startSeconds }) => !starts.includes(startSeconds));
  const { startSeconds } = itemAt(present(await sections()), index);
  const bars = music.grid.beats.filter(({ position }) => position === 1).map(({ seconds }) => seconds);
  expect(Math.min(...bars.map((bar) => Math.abs(bar - startSeconds)))).toBeLessThan(1e-6);
  expect(music.sections.map(({ label }) => label)).toContain("Boats come in");
  await page.getByRole("button", { name: `Join section ${index + 1} to the one before` }).click();
  await expect.poll(sections).toEqual(before);
  await page.getByRole("button", { name: "Back to as heard" }).click();
  await expect.poll(sections).toBeNull();
});

test("a length is met exactly by a fade that begins on a bar", async ({ page }) => {
  await openListen(page, "Songs");
  await page.getByLabel("Wanted length, such as 2:30").fill("1:31.5");
  await page
    .getByRole("radiogroup", { name: "How the length is met" })
    .getByRole("radio", { name: "by a fade" })
    .click();
  await page.getByRole("button", { name: "Find the joins" }).click();
  await expect(page.getByText(/with .* joins?, fading out over its last 2 bars\./)).toBeVisible();
  await expect.poll(async () => (await savedSong()).trimEndSeconds).not.toBeNull();
  const { music } = await plannedFilm(app, showId);
  expect(music.lengthSeconds).toBeCloseTo(91.5, 6);
  const bars = music.grid.beats.filter(({ position }) => position === 1).map(({ seconds }) => seconds);
  expect(Math.min(...bars.map((bar) => Math.abs(bar - present(music.fadeOutSeconds))))).toBeLessThan(1e-6);
  await page.getByRole("button", { name: "Original length" }).click();
  await expect.poll(savedSong).toMatchObject({ joins: [], trimEndSeconds: null, fadeOutBars: null });
});

test("the library finds, plays, notes and adds songs of all shows", async ({ page }) => {
  await openListen(page, "Songs");
  await page.getByRole("button", { name: "From the library …" }).click();
  const songs = page.getByRole("list", { name: "Songs of the library" });
  await expect(songs.getByRole("listitem")).toHaveCount(3);
  const waltz = songs.getByRole("listitem", { name: "Last Dance on the Quay" });
  await waltz.getByLabel("Tags").fill("slow, strings");
  await page.keyboard.press("Enter");
  await waltz.getByRole("button", { name: "A favourite" }).click();
  await page.getByLabel("Pace that songs are judged for").selectOption("one every 4 beats");
  // 109 s at 138 beats a minute: 63 places of four beats, and the show has 60 pictures.
  await expect(waltz.getByText("3 pictures too few")).toBeVisible();
  await waltz.getByRole("button", { name: "Hear “Last Dance on the Quay”" }).click();
  await expect(waltz.getByRole("button", { name: "Stop “Last Dance on the Quay”" })).toBeVisible();
  await page.getByLabel("Find a song by title or tag").fill("strings");
  await expect(songs.getByRole("listitem")).toHaveCount(1);
  await waltz.getByRole("button", { name: "Add to the film" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document.songs.length).toBe(2);
  await expect(page.getByRole("list", { name: "Songs of the film" }).getByRole("listitem")).toHaveCount(2);
  await page.keyboard.press("Control+z");
  await page.reload();
  await page.getByRole("radiogroup", { name: "What to work on" }).getByRole("radio", { name: "Songs" }).click();
  await page.getByRole("button", { name: "From the library …" }).click();
  await expect(waltz.getByLabel("Tags")).toHaveValue("slow, strings");
  await expect(waltz.getByRole("button", { name: "No favourite any more" })).toBeVisible();
  // It is in reach on Gather too.
  await page.goto(`${app.address}/shows/${showId}/gather`);
  const songPanel = page.getByRole("region", { name: "Song", exact: true });
  await songPanel.getByRole("button", { name: "From the library …" }).click();
  await waltz.getByRole("button", { name: "Add to the film" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document.songs.length).toBe(2);
  await expect(songPanel.getByText("and 1 more")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await savedShow(app, showId)).document.songs.length).toBe(1);
});
