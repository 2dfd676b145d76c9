import { spawnSync } from "node:child_process";
import path from "node:path";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { expect, type Page, test } from "@playwright/test";
import { copyDemo, hummingTide, plannedFilm, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/** The demo, as a new user meets it. One server for all tests; each begins where it says. */
test.describe.configure({ mode: "serial" });

let app: RunningApp;
let showId: string;

test.beforeAll(async () => {
  test.setTimeout(180_000);
  app = await startApp(copyDemo);
  showId = (await showsOf(app))[0]!.id;
});
test.afterAll(() => app.close());

const openScore = async (page: Page): Promise<void> => {
  await page.goto(`${app.address}/shows/${showId}/score`);
  await expect(page.getByTestId("slot")).toHaveCount(60);
};

const frameOnStage = async (page: Page): Promise<number> =>
  Number(await page.getByTestId("stage").getAttribute("data-frame"));

/** Mean colour of the stage: nothing drawn is black. */
const stageBrightness = (page: Page): Promise<number> =>
  page.getByTestId("stage").evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
    return data.reduce((sum, value, i) => (i % 4 === 3 ? sum : sum + value), 0) / ((data.length * 3) / 4);
  });

test("opens on a full Score from the shelf", async ({ page }) => {
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
  await page.goto(app.address);
  await page.getByRole("link", { name: /Closing night of the lantern regatta/ }).click();
  await expect(page.getByTestId("slot")).toHaveCount(60);
  await expect(page.getByTestId("score-row")).toHaveCount(10);
  await expect(page.getByText("60 slots over a song of 3:01")).toBeVisible();
  await expect.poll(() => stageBrightness(page)).toBeGreaterThan(40);
  expect(errors).toEqual([]);
});

test("plays with the audio clock, stops, and steps by frames and beats", async ({ page }) => {
  await openScore(page);
  await expect(page.getByRole("button", { name: "Play" })).toBeEnabled();
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await expect.poll(() => frameOnStage(page)).toBeGreaterThan(20);
  const [from, at] = [await frameOnStage(page), Date.now()];
  await page.waitForTimeout(2000);
  const seconds = (Date.now() - at) / 1000;
  // 25 frames a second, give or take what two looks at the page cost.
  expect((await frameOnStage(page)) - from).toBeGreaterThan(25 * seconds - 12);
  expect((await frameOnStage(page)) - from).toBeLessThan(25 * seconds + 12);
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Play" })).toBeVisible();
  const still = await frameOnStage(page);
  await page.keyboard.press("ArrowRight");
  await expect.poll(() => frameOnStage(page)).toBe(still + 1);
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowLeft");
  await expect.poll(() => frameOnStage(page)).toBe(still - 1);
  const { grid, rate } = await plannedFilm(app, showId);
  await page.keyboard.press("Shift+ArrowRight");
  const next = grid.beats.find((beat) => beat.seconds > ((still - 1) * rate.den) / rate.num + 0.02)!;
  await expect.poll(() => frameOnStage(page)).toBe(Math.floor((next.seconds * rate.num) / rate.den));
});

test("a landing dragged to another beat is locked there, the rest re-flows, and undo gives it back", async ({
  page,
}) => {
  await openScore(page);
  const before = await plannedFilm(app, showId);
  const landing = page.locator('[data-testid="landing"][data-slot="4"]');
  const was = before.slots[4]!.landing!.seconds;
  await expect(landing).toHaveAttribute("data-seconds", String(was));
  const box = (await landing.boundingBox())!;
  const row = (await page.locator("[data-row-track]").nth(0).boundingBox())!;
  const beatWidth = row.width / 32;
  await page.mouse.move(box.x + box.width / 2, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 2 * beatWidth, box.y + 24, { steps: 8 });
  await page.mouse.up();

  const target = before.grid.beats[before.slots[4]!.landing!.beatIndex + 2]!.seconds;
  await expect(landing).toHaveAttribute("data-locked", "true");
  await expect(landing).toHaveAttribute("data-seconds", String(target));
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await expect.poll(async () => (await savedShow(app, showId)).document.slides[4]!.landingLockSeconds).toBe(target);
  const after = await plannedFilm(app, showId);
  expect(after.slots[4]).toMatchObject({ locked: true });
  expect(after.slots).toHaveLength(60);

  await page.keyboard.press("Control+z");
  await expect(landing).toHaveAttribute("data-seconds", String(was));
  await expect.poll(async () => (await savedShow(app, showId)).document.slides[4]!.landingLockSeconds).toBeNull();
  expect((await plannedFilm(app, showId)).slots).toEqual(before.slots);

  await page.keyboard.press("Control+Shift+z");
  await expect(landing).toHaveAttribute("data-seconds", String(target));
  await page.keyboard.press("Control+z");
  await expect(landing).toHaveAttribute("data-seconds", String(was));
});

test("the same by keyboard: a landing moves from beat to beat, and L sets it free", async ({ page }) => {
  await openScore(page);
  const { slots, grid } = await plannedFilm(app, showId);
  const landing = page.locator('[data-testid="landing"][data-slot="6"]');
  await landing.focus();
  await page.keyboard.press("ArrowRight");
  const target = grid.beats[slots[6]!.landing!.beatIndex + 1]!.seconds;
  await expect(landing).toHaveAttribute("data-seconds", String(target));
  await page.keyboard.press("l");
  await expect(landing).toHaveAttribute("data-locked", "false");
  await expect(landing).toHaveAttribute("data-seconds", String(slots[6]!.landing!.seconds));
  await expect.poll(async () => (await savedShow(app, showId)).document.slides[6]!.landingLockSeconds).toBeNull();
});

test("pace, pictures left out and the ways out that are offered", async ({ page }) => {
  await openScore(page);
  await page.getByRole("radio", { name: "8 beats" }).click();
  await expect(page.getByText(/of them find no room/)).toBeVisible();
  await page.getByRole("button", { name: /^Best fit: every picture once/ }).click();
  await expect(page.getByTestId("slot")).toHaveCount(60);
  await expect.poll(async () => (await savedShow(app, showId)).document.pace.kind).toBe("auto");
});

test("corrections on Listen change the grid and can be undone", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/listen`);
  const beats = page.getByText("Beats", { exact: true }).locator("xpath=following-sibling::dd");
  await expect(beats).toHaveText("285");
  await page.getByRole("button", { name: "Twice as fast" }).click();
  await expect(beats).toHaveText("569");
  await page.keyboard.press("Control+z");
  await expect(beats).toHaveText("285");
  await page.getByRole("button", { name: "Nudge the grid by 10 milliseconds" }).click();
  await page.getByRole("button", { name: "Nudge the grid by 1 milliseconds" }).click();
  await expect(page.getByText("+11 ms")).toBeVisible();
  await expect
    .poll(async () => (await savedShow(app, showId)).document.gridEdits)
    .toEqual([{ kind: "nudge", milliseconds: 11 }]);
  await page.getByTestId("whole-song").click({ position: { x: 300, y: 50 } });
  await page.getByRole("button", { name: "The one is here, at the playhead" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document.gridEdits.at(-1)?.kind).toBe("oneHere");
  await page.getByRole("button", { name: "Back to what was heard" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document.gridEdits).toEqual([]);
});

test("a stretch is evened out or freed of beats, beats come and go, bars get another count", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/listen`);
  const beats = page.getByText("Beats", { exact: true }).locator("xpath=following-sibling::dd");
  await expect(beats).toHaveText(/^\d+$/);
  const heard = Number(await beats.textContent());
  const song = page.getByTestId("whole-song");
  await song.click({ position: { x: 200, y: 60 } });
  await page.getByRole("button", { name: "Take one away" }).click();
  await expect(beats).toHaveText(String(heard - 1));
  await page.getByRole("button", { name: "From here" }).click();
  await expect(page.getByRole("button", { name: "Free time" })).toBeDisabled();
  await song.click({ position: { x: 260, y: 60 } });
  await page.getByRole("button", { name: "To here" }).click();
  await page.getByRole("button", { name: "Make it even" }).click();
  await expect(beats).toHaveText(String(heard - 1));
  await page.getByRole("button", { name: "Free time" }).click();
  await expect.poll(async () => Number(await beats.textContent())).toBeLessThan(heard - 10);
  await page.getByRole("radiogroup", { name: "Beats in a bar" }).getByRole("radio", { name: "3" }).click();
  await page.getByRole("button", { name: "Add a beat" }).click();
  await expect
    .poll(async () => (await savedShow(app, showId)).document.gridEdits.map((edit) => edit.kind))
    .toEqual(["deleteBeat", "fixedTempo", "freeTime", "meter", "addBeat"]);
  for (let i = 0; i < 5; i++) await page.keyboard.press("Control+z");
  await expect(beats).toHaveText(String(heard));
  await expect.poll(async () => (await savedShow(app, showId)).document.gridEdits).toEqual([]);
});

test("D plays one doubtful stretch after the other, with a run-up", async ({ page }) => {
  // What the demo's songs leave in doubt may change with the analysis; this is about the way there.
  await page.route(/\/analysis$/, async (route) => {
    const response = await route.fetch();
    const analysis = (await response.json()) as MusicAnalysis;
    const doubts: MusicAnalysis["doubts"] = [
      { startSeconds: 30, endSeconds: 33, reason: "faint" },
      { startSeconds: 60, endSeconds: 61, reason: "tempo" },
    ];
    await route.fulfill({ response, json: { ...analysis, doubts, levelDoubt: "half" } });
  });
  await page.goto(`${app.address}/shows/${showId}/listen`);
  const list = page.getByRole("list", { name: "Doubtful stretches" });
  await expect(list.getByRole("button")).toHaveText([/0:30 to 0:33beats hardly heard/, /1:00 to 1:01the pulse jumps/]);
  const timecode = page.getByTestId("timecode");
  await expect(page.getByRole("button", { name: "Play", exact: true })).toBeEnabled();
  await page.keyboard.press("d");
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeVisible();
  await expect(timecode).toHaveText(/^00:00:(28|29)/);
  await page.keyboard.press("Space");
  await page.keyboard.press("d");
  await expect(timecode).toHaveText(/^00:00:(58|59)/);
  await page.keyboard.press("Space");
  // A doubt about the whole song goes with one press, and comes back with undo.
  const beats = page.getByText("Beats", { exact: true }).locator("xpath=following-sibling::dd");
  const heard = Number(await beats.textContent());
  await page.getByRole("button", { name: "Take that" }).click();
  await expect(beats).toHaveText(String(Math.ceil(heard / 2)));
  await expect(page.getByText("Maybe felt half as fast")).toBeHidden();
  await page.keyboard.press("Control+z");
  await expect(beats).toHaveText(String(heard));
});

test("exports, downloads, and the file is what was planned", async ({ page }) => {
  test.setTimeout(800_000);
  await page.goto(`${app.address}/shows/${showId}/hand-over`);
  await page.getByRole("radio", { name: "29.97" }).click();
  await page.getByRole("radio", { name: "720p" }).click();
  await page.getByRole("button", { name: "Export", exact: true }).click();
  const card = page.getByTestId("export");
  await expect(card).toHaveAttribute("data-state", "running");
  await expect(card.getByText(/left$/)).toBeVisible({ timeout: 60_000 });
  await expect(card).toHaveAttribute("data-state", "done", { timeout: 600_000 });
  await expect(card.getByTestId("measured")).toContainText("59 of 59 changes seen");
  await expect(card.getByTestId("measured")).toContainText("All is where it should be.");

  const film = path.join(app.folder, "film.mp4");
  const [filmDownload] = await Promise.all([
    page.waitForEvent("download"),
    card.getByRole("link", { name: "Download the film" }).click(),
  ]);
  expect(filmDownload.suggestedFilename()).toBe("Closing night of the lantern regatta 720p.mp4");
  await filmDownload.saveAs(film);
  const report = path.join(app.folder, "report.json");
  const [reportDownload] = await Promise.all([
    page.waitForEvent("download"),
    card.getByRole("link", { name: "Plan (JSON)" }).click(),
  ]);
  await reportDownload.saveAs(report);

  const probe = spawnSync("ffprobe", ["-v", "error", "-count_packets", "-show_streams", "-of", "json", film], {
    encoding: "utf8",
  });
  const [video, audio] = (JSON.parse(probe.stdout) as { streams: Record<string, string>[] }).streams;
  const plan = await plannedFilm(app, showId);
  expect(video).toMatchObject({
    codec_name: "h264",
    width: 1280,
    height: 720,
    r_frame_rate: "30000/1001",
    nb_read_packets: String(plan.totalFrames),
  });
  expect(audio).toMatchObject({ codec_name: "aac" });
  // The song lies beside the demo's other files, under the name that the report gives.
  const music = path.join(app.folder, "demo-files", "music", "Lanterns on the Water.wav");
  const { copyFile } = await import("node:fs/promises");
  await copyFile(music, path.join(app.folder, "Lanterns on the Water.wav"));
  const { status, out } = hummingTide("verify", film, "--report", report);
  expect([status, out.trimEnd().split("\n").at(-1)]).toEqual([0, "OK"]);

  // What is seen is what is exported: a still picture, the middle of a dissolve, and a portrait beside its fill.
  await page.goto(`${app.address}/shows/${showId}/dress`);
  const middle = plan.slots[20]!.startFrame;
  const portrait = plan.slots.find((slot) => slot.pictureSize.height > slot.pictureSize.width)!;
  for (const frame of [
    Math.round((plan.slots[30]!.startFrame + plan.slots[30]!.endFrame) / 2),
    middle,
    portrait.endFrame - 15,
  ]) {
    await page.getByLabel("Place in the film, in frames").fill(String(frame));
    await expect.poll(() => frameOnStage(page)).toBe(frame);
    await expect
      .poll(async () => signalToNoise(await stagePixels(page), filmPixels(film, frame)), { message: `frame ${frame}` })
      .toBeGreaterThan(30);
  }
});

const [LOOK_WIDTH, LOOK_HEIGHT] = [320, 180];

/** The stage as RGB, made small so that its size on the screen plays no part. */
const stagePixels = (page: Page): Promise<number[]> =>
  page.getByTestId("stage").evaluate(
    (canvas: HTMLCanvasElement, [width, height]) => {
      const small = new OffscreenCanvas(width!, height!).getContext("2d")!;
      small.imageSmoothingQuality = "high";
      small.drawImage(canvas, 0, 0, width!, height!);
      return [...small.getImageData(0, 0, width!, height!).data].filter((_, i) => i % 4 !== 3);
    },
    [LOOK_WIDTH, LOOK_HEIGHT],
  );

/** The same frame of the exported file, decoded by ffmpeg. */
function filmPixels(film: string, frame: number): Buffer {
  const filter = `select=eq(n\\,${frame}),scale=${LOOK_WIDTH}:${LOOK_HEIGHT}:flags=area`;
  const args = ["-v", "error", "-i", film, "-vf", filter, "-frames:v", "1", "-f", "rawvideo", "-pix_fmt", "rgb24", "-"];
  return spawnSync("ffmpeg", args, { maxBuffer: 1 << 26 }).stdout;
}

/** Peak signal to noise ratio in decibels. */
function signalToNoise(a: ArrayLike<number>, b: ArrayLike<number>): number {
  if (a.length !== b.length) throw new Error(`${a.length} bytes beside ${b.length}`);
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2;
  return 10 * Math.log10(255 ** 2 / (sum / a.length));
}
