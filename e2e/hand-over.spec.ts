import { spawnSync } from "node:child_process";
import { mkdir, readdir, readFile, rename } from "node:fs/promises";
import path from "node:path";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { mainOutput, type ShowDocument } from "@humming-tide/core/show";
import { expect, type Page, test } from "@playwright/test";
import { leaveSaved } from "./all-saved.ts";
import { copyDemo, editShow, hummingTide, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

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
const PARTS = { checks: "Checks", films: "Films", files: "Other tools" } as const;
const open = async (page: Page, part: keyof typeof PARTS): Promise<void> => {
  await page.goto(`${app.address}/shows/${showId}/hand-over?part=${part}`);
  await expect(page.getByRole("radio", { name: PARTS[part] })).toBeChecked();
};

test("files for other tools are downloaded, what comes back changed is compared, and nothing of the show changes", async ({
  page,
}) => {
  await open(page, "files");
  const before = await document();
  const fetched = async (name: string): Promise<Buffer> => {
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("link", { name: `Download ${name}` }).click(),
    ]);
    const place = path.join(app.folder, download.suggestedFilename());
    await download.saveAs(place);
    return readFile(place);
  };
  expect((await fetched("Cue sheet")).subarray(0, 5).toString()).toBe("%PDF-");
  expect(await readdir(app.folder)).toContain("Closing night of the lantern regatta, cue sheet.pdf");
  expect((await fetched("Grid")).subarray(0, 4).toString()).toBe("MThd");
  expect((await fetched("Chapters")).toString()).toMatch(/^WEBVTT\n[\s\S]*Painting the boats/);
  const list = (await fetched("Edit list")).toString();
  const timeline = (await fetched("Timeline")).toString();
  const compare = async (name: string, text: string): Promise<void> =>
    page
      .getByLabel("Choose a file to compare")
      .setInputFiles({ name, mimeType: "text/plain", buffer: Buffer.from(text) });
  await compare("back.otio", timeline);
  await expect(page.getByTestId("compared")).toContainText("Every change lies where the film has it.");
  // A second later, on one edge: the events before and behind it.
  const edge = present(/01:00:1\d:\d\d/.exec(list))[0];
  await compare("back.edl", list.replaceAll(edge, edge.replace("01:00:1", "01:00:2")));
  await expect(page.getByRole("alert").or(page.getByTestId("compared"))).toContainText(
    /One lies elsewhere|ends before/,
  );
  await compare("back.otio", "{}");
  await expect(page.getByRole("alert")).toContainText("only a Timeline says when pictures are shown");
  expect(await document()).toEqual(before);
});

test("what is wrong is found after every edit, shown on the Score too, put right by one press, and undone", async ({
  page,
}) => {
  // A caption that nobody can read in the time that was wished for it.
  await editShow(app, showId, (show) => ({
    ...show,
    slides: show.slides.map((slide, i) =>
      i === 6
        ? {
            ...slide,
            caption: "So many words are written on this one picture that nobody could ever read them in time",
            length: { seconds: 2, locked: false },
          }
        : slide,
    ),
  }));
  await open(page, "checks");
  const finding = page.locator('[data-testid="finding"][data-kind="words-short"]').filter({ hasText: "07 " });
  await expect(finding).toContainText("BBC Subtitle Guidelines");
  await finding.getByRole("button", { name: "Show it on the Score" }).click();
  await expect(page.getByRole("list", { name: "Worth a look" })).toContainText("take");
  await expect(page.getByRole("button", { name: /^Slot 7: .*worth a look$/ })).toBeVisible();
  await page
    .getByRole("list", { name: "Worth a look" })
    .getByRole("button", { name: /^Let it stand for/ })
    .click();
  await expect(page.getByRole("list", { name: "Worth a look" })).toBeHidden();
  await expect.poll(async () => itemAt((await document()).slides, 6).length?.locked).toBe(true);
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("list", { name: "Worth a look" })).toBeVisible();
  await expect.poll(async () => itemAt((await document()).slides, 6).length).toEqual({ seconds: 2, locked: false });
  // What follows looks at the film as it was.
  await page.close();
  await editShow(app, showId, (show) => ({
    ...show,
    slides: show.slides.map((slide, i) => (i === 6 ? { ...slide, caption: "", length: null } : slide)),
  }));
});

test("every frame is looked at and the sound heard: it can be stopped, a missing file is named, and the command agrees", async ({
  page,
}) => {
  // Half a minute of it, so that it is soon seen.
  await editShow(app, showId, (show) => ({
    ...show,
    lead: { kind: "length", seconds: 12 },
    pace: { kind: "bars", count: 1 },
  }));
  await open(page, "checks");
  await page.getByRole("button", { name: "Look through the film" }).click();
  await expect(page.getByRole("progressbar", { name: "Check of every frame" })).toBeVisible();
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  await expect(page.getByText("Stopped before the end.")).toBeVisible();
  await page.getByRole("button", { name: "Look through the film" }).click();
  const facts = page.getByTestId("check-facts");
  // And the teaser, which has half a minute of its own.
  await expect(facts).toContainText("1,050", { timeout: 120_000 });
  await expect(facts).toContainText("−14.0 LUFS");
  // A file goes.
  const { sha256 } = itemAt((await document()).slides, 9);
  const folder = path.join(app.folder, "data", "media");
  const place = present(
    (await readdir(folder, { recursive: true })).find((name) => path.basename(name).startsWith(present(sha256))),
  );
  await rename(path.join(folder, place), path.join(app.folder, "gone"));
  await page.getByRole("button", { name: "Look again" }).click();
  const missing = page.locator('[data-testid="finding"][data-kind="media-missing"]');
  await expect(missing).toContainText("not in the data folder any more");
  // The folder belongs to the server; the command says so, and works when it has ended.
  const data = path.join(app.folder, "data");
  expect(hummingTide("check", showId, "--data", data)).toMatchObject({
    ...{ status: 1, out: expect.stringContaining(`in use by a Humming Tide server at ${app.address}`) },
  });
  await app.kill();
  const { status, out } = hummingTide("check", showId, "--data", data);
  await app.restart();
  expect(status).toBe(1);
  expect(out).toMatch(/^error .*media-missing: /m);
  await rename(path.join(app.folder, "gone"), path.join(folder, place));
  await page.getByRole("button", { name: "Look again" }).click();
  await expect(missing).toHaveCount(0, { timeout: 120_000 });
  await editShow(app, showId, (show) => ({ ...show, lead: { kind: "length", seconds: 30 } }));
});

test("outputs are added, changed and taken out; several films are made at once, one is stopped, the others lie in the folder", async ({
  page,
}) => {
  await open(page, "films");
  await page.getByRole("button", { name: "Add an output" }).click();
  await page.getByRole("menuitem", { name: /Square/ }).click();
  const panel = page.getByRole("region", { name: "Square" });
  await panel.getByLabel("Name").fill("Square for the committee");
  const named = page.getByRole("region", { name: "Square for the committee" });
  await named.getByRole("checkbox", { name: "Captions of pictures" }).uncheck();
  await named.getByRole("checkbox", { name: "Watermark" }).check();
  await named.getByLabel("Text of the watermark").fill("Proof for the regatta");
  await named.getByRole("radio", { name: "Top left" }).click();
  await named.getByRole("checkbox", { name: "Only a part of the music" }).check();
  await named.getByRole("radio", { name: "15 s" }).click();
  await expect(page.getByRole("button", { name: /Square for the committee.*15 s/ })).toBeVisible();
  await named.getByRole("radio", { name: "Whole bars" }).click();
  await named.getByLabel("Bars", { exact: true }).fill("3");
  await expect
    .poll(async () => (await document()).outputs.at(-1))
    .toMatchObject({
      name: "Square for the committee",
      captions: false,
      watermark: { text: "Proof for the regatta", place: "top-left" },
      part: { barsPerSlide: 1 },
    });
  const { part } = lastOf((await document()).outputs);
  // Three bars at 96 beats a minute.
  await expect
    .poll(async () => present(lastOf((await document()).outputs).part).endSeconds - present(part).startSeconds)
    .toBeCloseTo(7.5, 1);
  const { length } = (await document()).outputs;
  await page.getByRole("button", { name: "Remove Square for the committee" }).click();
  await expect.poll(async () => (await document()).outputs.length).toBe(length - 1);
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document()).outputs.length).toBe(length);

  // Small ones, soon made.
  const films = path.join(app.folder, "films");
  await mkdir(films);
  await editShow(app, showId, (show) => ({
    ...show,
    outputs: [
      { ...mainOutput(show), name: "Whole evening", size: { width: 320, height: 180 } },
      { ...lastOf(show.outputs), size: { width: 180, height: 180 } },
    ],
  }));
  await open(page, "films");
  await page.getByLabel("A folder on this machine").fill("films");
  await page.getByRole("button", { name: "Use this folder" }).click();
  await expect(page.getByRole("alert")).toContainText("whole path");
  await page.getByLabel("A folder on this machine").fill(films);
  await page.getByRole("button", { name: "Use this folder" }).click();
  await expect(page.getByRole("alert")).toHaveCount(0);
  await page.getByRole("button", { name: "Export 2 films" }).click();
  const cards = page.getByTestId("export");
  await expect(cards).toHaveCount(2);
  const whole = cards.filter({ hasText: "Whole evening" });
  const square = cards.filter({ hasText: "Square for the committee" });
  await whole.getByRole("button", { name: "Cancel" }).click();
  await expect(whole).toHaveAttribute("data-state", "cancelled");
  await expect(square).toHaveAttribute("data-state", "done", { timeout: 120_000 });
  await expect(square.getByTestId("measured")).toContainText("All is where it should be.");
  await expect(square).toContainText("Put into");
  const [made, ...others] = await readdir(films);
  expect([made, others]).toEqual(["Closing night of the lantern regatta, Square for the committee 180x180.mp4", []]);
  const probe = spawnSync("ffprobe", [
    "-v",
    "error",
    "-show_entries",
    "format=duration",
    "-of",
    "csv=p=0",
    path.join(films, present(made)),
  ]);
  expect(Number(probe.stdout.toString())).toBeCloseTo(7.5, 0);
});
