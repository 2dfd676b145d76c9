import { copyFile, mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { clickSong, ffmpeg, stripedJpeg } from "@humming-tide/server/testing";
import { expect, type Page, test } from "@playwright/test";
import { allSaved } from "./all-saved.ts";
import { findings } from "./axe-findings.ts";
import { copyDemo, editShow, plannedFilm, ROOT, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/**
 * Gather, as it is worked with. One server with the demo for all tests; each begins where it says.
 */
test.describe.configure({ mode: "serial" });

let app: RunningApp;
let showId: string;
let uncullId: string;

test.beforeAll(async () => {
  test.setTimeout(240_000);
  app = await startApp(copyDemo);
  const shows = await showsOf(app);
  showId = present(shows.find(({ title }) => title.startsWith("Closing night"))).id;
  uncullId = present(shows.find(({ title }) => title.startsWith("All of the night"))).id;
});
test.afterAll(() => app.close());

const document = async (id = showId) => (await savedShow(app, id)).document;
const names = async (id = showId): Promise<string[]> => (await document(id)).slides.map(({ fileName }) => fileName);
const cell = (page: Page, fileName: string) => page.locator(`[data-testid="picture"][data-file="${fileName}"]`);
async function openGather(page: Page, id = showId): Promise<void> {
  await page.goto(`${app.address}/shows/${id}/gather`);
  await expect(page.getByTestId("picture").first()).toBeVisible();
}

const menu = async (page: Page, button: string | RegExp, item: string | RegExp): Promise<void> => {
  await page.getByRole("button", { name: button }).click();
  await page.getByRole("menuitem", { name: item }).click();
};

test("culling: one key each, the next picture by itself, counts in sight, left-out pictures in reach", async ({
  page,
}) => {
  await openGather(page);
  await cell(page, "01 painting 1.jpg").click();
  for (const key of ["n", "b", "k", "h"]) await page.keyboard.press(key);
  await expect(page.getByRole("radio", { name: "1 left out" })).toBeVisible();
  await expect(page.getByRole("radio", { name: "1 maybe" })).toBeVisible();
  await expect(page.getByRole("radio", { name: "58 keep" })).toBeVisible();
  await expect(page.getByTestId("film-counts")).toHaveText(/in the film 59/);
  await allSaved(page);
  const { slides } = await document();
  expect(slides.slice(0, 4).map(({ rating, hero }) => [rating, hero])).toEqual([
    ["out", false],
    ["maybe", false],
    ["keep", false],
    ["keep", false],
  ]);
  expect((await plannedFilm(app, showId)).slots.map(({ name }) => name)).not.toContain("01 painting 1.jpg");

  await page.getByRole("radio", { name: "1 left out" }).click();
  await expect(page.getByTestId("picture")).toHaveCount(1);
  await cell(page, "01 painting 1.jpg").click();
  await page.keyboard.press("k");
  await page.getByRole("radio", { name: "All" }).click();
  for (let i = 0; i < 4; i++) await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("radio", { name: "60 keep" })).toBeVisible();
  // What is unsaved stays in this browser, which ends with the test.
  await allSaved(page);
});

test("selecting: range, rubber band, all, by shape and by time; a batch change says its number and is one undo step", async ({
  page,
}) => {
  await openGather(page);
  await cell(page, "02 painting 2.jpg").click();
  await cell(page, "05 painting 5.jpg").click({ modifiers: ["Shift"] });
  await expect(page.getByRole("button", { name: "Leave out 4" })).toBeVisible();
  await cell(page, "07 painting 7.jpg").click({ modifiers: ["Control"] });
  await page.getByRole("button", { name: "Leave out 5" }).click();
  await expect(page.getByRole("radio", { name: "5 left out" })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("radio", { name: "0 left out" })).toBeVisible();

  // From the gap beside the last picture of the first passage, up over two columns of its two rows.
  const from = present(await cell(page, "08 painting 8.jpg").boundingBox());
  const to = present(await cell(page, "02 painting 2.jpg").boundingBox());
  await page.mouse.move(from.x + from.width + 30, from.y + from.height - 30);
  await page.mouse.down();
  await page.mouse.move(to.x + 20, to.y + 20, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: /^Keep 5$/ })).toBeVisible();

  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+a");
  await expect(page.getByRole("button", { name: "Keep 60" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("selection-bar")).toHaveCount(0);

  await menu(page, "Select …", /^Portrait/);
  const portraits = (await plannedFilm(app, showId)).slots.filter(
    ({ pictureSize: s }) => s.height > s.width * 1.05,
  ).length;
  await expect(page.getByRole("button", { name: `Keep ${portraits}` })).toBeVisible();

  await menu(page, "Select …", "Taken between …");
  await page.getByLabel("From", { exact: true }).fill("2031-06-21T23:00:00");
  await page.getByLabel("To", { exact: true }).fill("2031-06-21T23:59:59");
  await page.getByRole("button", { name: "Select 9" }).click();
  await expect(page.getByRole("button", { name: "Keep 9" })).toBeVisible();
});

test("order by hand: many at once with the pointer, and with the keyboard", async ({ page }) => {
  await openGather(page);
  const before = await names();
  await cell(page, "01 painting 1.jpg").click();
  await cell(page, "02 painting 2.jpg").click({ modifiers: ["Shift"] });
  const from = present(await cell(page, "01 painting 1.jpg").boundingBox());
  const to = present(await cell(page, "04 painting 4.jpg").boundingBox());
  await page.mouse.move(from.x + 60, from.y + 50);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width - 10, to.y + 50, { steps: 12 });
  await expect(page.getByTestId("drop-mark")).toBeVisible();
  await page.mouse.up();
  const moved = [
    "03 painting 3.jpg",
    "04 painting 4.jpg",
    "01 painting 1.jpg",
    "02 painting 2.jpg",
    "05 painting 5.jpg",
  ];
  await expect.poll(async () => (await names()).slice(0, 5)).toEqual(moved);
  await page.keyboard.press("Control+z");
  await expect.poll(names).toEqual(before);

  await cell(page, "01 painting 1.jpg").click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+ArrowRight");
  await page.keyboard.press("Alt+ArrowRight");
  await expect.poll(async () => (await names())[2]).toBe("01 painting 1.jpg");
  await page.keyboard.press("Alt+ArrowDown");
  await expect.poll(async () => (await names())[7]).toBe("01 painting 1.jpg");
  // Over the border into the next passage.
  await page.keyboard.press("Alt+ArrowRight");
  await expect.poll(async () => itemAt((await document()).slides, 7).passageId).toBe("p2");
  await page.keyboard.press("Delete");
  await expect.poll(async () => (await names()).length).toBe(59);
  for (let i = 0; i < 5; i++) await page.keyboard.press("Control+z");
  await expect.poll(names).toEqual(before);
});

test("order by itself: name, time with a camera's clock put right, a shuffle that repeats, a client's order that stays", async ({
  page,
}) => {
  await openGather(page, uncullId);
  const before = await names(uncullId);
  await menu(page, "Order …", "Camera clocks …");
  const phone = page.getByLabel("Add to the times of Harbour Pocket 3");
  await expect(phone).toHaveValue("-1:00:00");
  await phone.fill("0:00:00");
  await phone.press("Enter");
  await page.getByRole("button", { name: "Close" }).click();
  await menu(page, "Order …", "By capture time");
  // An hour late, the phone's pictures of the lanterns fall behind the first of the race.
  const late = await expect.poll(async () => (await names(uncullId)).indexOf("19 lanterns 3.jpg")).toBeGreaterThan(8);
  expect(late).toBeUndefined();
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await menu(page, "Order …", "By capture time");
  await expect.poll(async () => (await names(uncullId)).indexOf("19 lanterns 3.jpg")).toBe(1);

  const shuffle = async (): Promise<string[]> => {
    await menu(page, "Order …", "Shuffled …");
    await page.getByLabel("Number of the shuffle").fill("77");
    await page.getByRole("button", { name: "Shuffle", exact: true }).click();
    await allSaved(page);
    return names(uncullId);
  };
  const first = await shuffle();
  expect(first).not.toEqual(before);
  await menu(page, "Order …", "By file name, 2 before 10");
  await expect.poll(async () => (await names(uncullId))[0]).toBe("18 lanterns 2.jpg");
  expect(await shuffle()).toEqual(first);

  await menu(page, "Order …", /Lock: it is the client/);
  await expect(page.getByText("order locked")).toBeVisible();
  await page.getByTestId("picture").first().click();
  await page.keyboard.press("Alt+ArrowRight");
  await expect(page.getByText(/The order of this show is locked/)).toBeVisible();
  await menu(page, "Order …", /Unlock/);
  await menu(page, "Order …", "By capture time");
  await allSaved(page);
});

test("the list as CSV goes out and comes in again, with errors by line", async ({ page }) => {
  await openGather(page, uncullId);
  await menu(page, "Order …", "List as CSV …");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save the list" }).click(),
  ]);
  const file = path.join(app.folder, "list.csv");
  await download.saveAs(file);
  const text = await readFile(file, "utf8");
  expect(text.split("\r\n")[0]).toBe("\uFEFFfile,caption,passage,rating,hero");
  expect(text.trim().split("\r\n")).toHaveLength(34);

  const edited =
    'file;caption;passage;rating\n27 race 1.jpg;"Off they go; at last";The race;keep\n18 lanterns 2.jpg;;Lanterns;leave out\nnobody.jpg;;;\n20 lanterns 4.jpg;;;splendid\n';
  await writeFile(file, edited);
  await page.getByLabel("Choose a list").setInputFiles(file);
  await expect(page.getByTestId("list-problems")).toContainText("Line 4");
  await expect(page.getByTestId("list-problems")).toContainText('Line 5The rating is "splendid"');
  await page.getByRole("button", { name: "Take over 2 lines" }).click();
  await allSaved(page);
  const { slides, passages } = await document(uncullId);
  expect(slides.slice(0, 2)).toMatchObject([
    { fileName: "27 race 1.jpg", caption: "Off they go; at last", rating: "keep" },
    { fileName: "18 lanterns 2.jpg", rating: "out" },
  ]);
  expect(passages.map(({ name }) => name)).toEqual(["The race", "Lanterns", ""]);
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document(uncullId)).passages).toHaveLength(1);
});

test("passages are proposed, named, split, joined, and carry their transition into the film", async ({ page }) => {
  await openGather(page, uncullId);
  await menu(page, "Order …", "By capture time");
  await page.getByRole("button", { name: "Passages …" }).click();
  await page.getByRole("radio", { name: "Many" }).click();
  await expect(page.getByText(/(minutes|hours|days) later/).first()).toBeVisible();
  await page.getByLabel("Name of passage 1").fill("Lanterns lit");
  await page.getByRole("button", { name: /^Divide into \d passages$/ }).click();
  await expect(page.getByTestId("passage").first()).toBeVisible();
  await expect(page.getByLabel("Name of the passage").first()).toHaveValue("Lanterns lit");
  await allSaved(page);
  const count = (await document(uncullId)).passages.length;
  expect(count).toBeGreaterThan(2);
  await cell(page, "20 lanterns 4.jpg").click();
  await page.keyboard.press("p");
  await expect.poll(async () => (await document(uncullId)).passages.length).toBe(count + 1);
  await page.getByRole("button", { name: "More for Passage 2" }).click();
  await page.getByRole("menuitem", { name: "Join with the passage before" }).click();
  await expect.poll(async () => (await document(uncullId)).passages.length).toBe(count);

  await openGather(page);
  await page.getByLabel("Transition of The crews").selectOption({ label: "cuts" });
  await allSaved(page);
  const crews = (await plannedFilm(app, showId)).slots.filter(({ name }) => name.includes("crews"));
  expect(crews.map(({ transitionIn }) => transitionIn.kind)).toEqual(crews.map(() => "cut"));
  await page.keyboard.press("Control+z");
  await allSaved(page);
});

test("a large look: neighbours, keys, a caption; pictures of one moment and soft ones are pointed out, none is dropped", async ({
  page,
}) => {
  await openGather(page, uncullId);
  await expect(page.getByText("1 soft picture")).toBeVisible();
  await expect(page.getByTestId("moment")).toHaveCount(2);
  await page.getByRole("button", { name: "Compare 5" }).click();
  const look = page.getByTestId("large-view");
  await expect(look.getByRole("img")).toHaveCount(3);
  await page.keyboard.press("n");
  await page.keyboard.press("n");
  await page.keyboard.press("n");
  await page.keyboard.press("n");
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("moment")).toHaveCount(1);
  await allSaved(page);
  const { slides } = await document(uncullId);
  expect([slides.length, slides.filter(({ rating }) => rating === "out").length]).toEqual([33, 4]);

  await page.getByTestId("picture").nth(2).dblclick();
  await expect(look).toContainText("3 of 33");
  await page.keyboard.press("ArrowRight");
  await expect(look).toContainText("4 of 33");
  await page.keyboard.press("r");
  await look.getByLabel("Caption").fill("By the quay");
  await look.getByLabel("Caption").press("Enter");
  await page.keyboard.press("Escape");
  await allSaved(page);
  expect((await document(uncullId)).slides[3]).toMatchObject({ caption: "By the quay", turn: 90 });
  const turned = page.getByTestId("picture").nth(3).locator("img");
  await expect(turned).toHaveAttribute("src", /-90\/thumbnail$/);
  await expect.poll(() => turned.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(0);
});

test("alike pictures fold into stacks with the best on top; one key chooses, another compares; undo takes it back", async ({
  page,
}) => {
  const asItWas = await document(uncullId);
  await editShow(app, uncullId, (show) => ({
    ...show,
    slides: show.slides.map((slide) => ({ ...slide, rating: "maybe" as const })),
  }));
  await openGather(page, uncullId);
  const before = await document(uncullId);
  await expect(page.getByTestId("moment").first()).toBeVisible();
  const all = before.slides.length;
  // So high that every row is in sight: others do not exist.
  await page.setViewportSize({ width: 1280, height: 3000 });
  await expect(page.getByTestId("picture")).toHaveCount(all);
  await page.getByRole("button", { name: "Fold alike" }).click();
  const stacks = page.getByTestId("picture").filter({ hasText: "stack of" });
  await expect(stacks.first()).toBeVisible();
  const shown = await page.getByTestId("picture").count();
  expect(shown).toBeLessThan(all);
  expect(await findings(page)).toEqual([]);

  // Compared side by side, then chosen there.
  const top = stacks.last();
  await top.click();
  const topId = present(await top.getAttribute("data-slide"));
  const tag = present(await top.getByText(/^stack of \d+$/).textContent());
  const size = Number(tag.replace("stack of ", ""));
  await page.keyboard.press("c");
  const look = page.getByTestId("large-view");
  await expect(look).toContainText(`of ${size}`);
  await page.keyboard.press("Escape");
  const out = async () => (await document(uncullId)).slides.filter(({ rating }) => rating === "out").length;
  await top.click();
  await page.keyboard.press("e");
  await expect.poll(out).toBe(size - 1);
  expect((await document(uncullId)).slides.find(({ id }) => id === topId)?.rating).toBe("keep");
  await expect(page.getByTestId("picture")).toHaveCount(shown);

  // The way to work stays, and undo brings all back.
  await page.reload();
  await expect(page.getByTestId("picture")).toHaveCount(shown);
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document(uncullId)).slides).toEqual(before.slides);
  await page.getByRole("button", { name: "Unfold alike" }).click();
  await expect(page.getByTestId("picture")).toHaveCount(all);
  await allSaved(page);
  await editShow(app, uncullId, () => asItWas);
});

test("a folder comes in: every kind, odd names, reasons for what does not; it stops, goes on, and survives the server's death", async ({
  page,
}) => {
  // A minute's work, but a machine with other work has been seen to take three.
  test.setTimeout(600_000);
  const folder = path.join(app.folder, "the cards");
  await mkdir(path.join(folder, "card 1"), { recursive: true });
  await mkdir(path.join(folder, "card 2", "deeper"), { recursive: true });
  // Enough that work can be stopped, and killed, in their midst.
  const pictures = 24;
  for (let i = 1; i <= pictures; i++)
    await writeFile(path.join(folder, "card 1", `${i}.jpg`), await stripedJpeg(i, 2400, 1600));
  const odd = `it's "quoted" 🏮 שלום ${"long ".repeat(30)}.jpg`;
  await writeFile(path.join(folder, "card 2", odd), await stripedJpeg(50));
  await writeFile(path.join(folder, "card 2", "deeper", "again.jpg"), await stripedJpeg(1, 2400, 1600));
  await writeFile(path.join(folder, "card 2", "letter.jpg"), "Bring the lanterns.");
  await writeFile(path.join(folder, "card 2", ".hidden.jpg"), "x");
  await copyFile(
    path.join(ROOT, "server/src/testing/fixtures/four-colours.heic"),
    path.join(folder, "card 2", "phone.heic"),
  );
  const clip = ["-c:v", "libx264", "-pix_fmt", "yuv420p", "-c:a", "aac", "-shortest"];
  const source = ["-f", "lavfi", "-i", "testsrc2=s=640x360:r=25:d=2", "-f", "lavfi", "-i", "sine=d=2"];
  ffmpeg([...source, ...clip, path.join(folder, "card 2", "race.mp4")]);
  ffmpeg([...source, "-c:v", "libvpx-vp9", "-cpu-used", "8", "-shortest", path.join(folder, "card 2", "quay.webm")]);
  await writeFile(path.join(folder, "song.wav"), clickSong(20, 104, 0.4).wav);

  await page.goto(app.address);
  await page.getByRole("button", { name: "New show" }).click();
  await page.getByLabel("Name").fill("A wedding’s worth");
  await page.getByRole("button", { name: "Start" }).click();
  const folderInput = page.getByLabel("Choose a folder");
  await folderInput.setInputFiles(folder);
  const summary = page.getByTestId("intake-summary");
  await expect(page.getByTestId("picture").first()).toBeVisible();
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  await expect(page.getByText("Stopped. What is in stays in.")).toBeVisible();
  const id = itemAt(new URL(page.url()).pathname.split("/"), 2);
  await allSaved(page);
  const atStop = (await names(id)).length;
  expect(atStop).toBeGreaterThan(0);
  expect(atStop).toBeLessThan(pictures + 4);

  // A new page knows what did not come; the same folder again sends only that.
  await page.reload();
  await expect(page.getByText(/files of last time did not come in/)).toBeVisible();
  await folderInput.setInputFiles(folder);
  await expect(summary).toContainText("already there");
  await app.kill();
  await expect(page.getByText(/The server does not answer/)).toBeVisible();
  await app.restart();
  await expect(summary).toHaveText(new RegExp(`${pictures + 7} of ${pictures + 7} files.*1 not taken in`), {
    timeout: 300_000,
  });
  await expect(page.locator('[data-testid="intake-file"][data-state="refused"]')).toContainText(
    /letter.jpg.*neither a picture/,
  );
  await allSaved(page);

  const show = await savedShow(app, id);
  const order = [
    ...Array.from({ length: pictures }, (_, i) => `${i + 1}.jpg`),
    odd,
    "phone.heic",
    "quay.webm",
    "race.mp4",
  ];
  expect(show.document.slides.map(({ fileName }) => fileName)).toEqual(order);
  expect(show.document.songs[0]?.fileName).toBe("song.wav");
  const facts = Object.values(show.media);
  expect(facts.filter(({ kind }) => kind === "clip")).toHaveLength(2);
  expect(facts.find(({ mime }) => mime === "image/heic")).toMatchObject({
    width: 240,
    height: 160,
    camera: "Harbour Pocket 3",
  });

  // The clip's playable copy is made by itself, and Chromium plays it.
  const race = cell(page, "race.mp4");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("End");
  await expect(race).toBeVisible();
  await expect(race).not.toContainText("prepared", { timeout: 60_000 });
  await expect(race).not.toContainText("preparing");
  await race.dblclick();
  const video = page.locator("video");
  await expect(video).toBeVisible({ timeout: 30_000 });
  const played = await video.evaluate(async (element: HTMLVideoElement) => {
    element.muted = true;
    await element.play();
    await new Promise((resolve) => setTimeout(resolve, 700));
    return [element.currentTime > 0.2, element.videoWidth, element.videoHeight];
  });
  expect(played).toEqual([true, 640, 360]);
  await page.keyboard.press("Escape");
});

test("a drop of files is one undo step, and goes where it is dropped", async ({ page }) => {
  await openGather(page);
  const before = await names();
  const bytes = [...(await stripedJpeg(91)), ...[]];
  const transfer = await page.evaluateHandle((content) => {
    const data = new DataTransfer();
    for (let i = 1; i <= 3; i++) {
      data.items.add(
        new File([new Uint8Array([...content, i])], `dropped ${i}.jpg`, { type: "image/jpeg", lastModified: i }),
      );
    }
    return data;
  }, bytes);
  const target = present(await cell(page, "01 painting 1.jpg").boundingBox());
  const at = { clientX: target.x + 5, clientY: target.y + 20, dataTransfer: transfer };
  await page.getByTestId("sheet").dispatchEvent("dragover", at);
  await expect(page.getByText("Drop to bring in; on the middle of a picture, to replace it")).toBeVisible();
  await page.getByTestId("sheet").dispatchEvent("drop", at);
  await expect
    .poll(async () => (await names()).slice(7, 11))
    .toEqual(["08 painting 8.jpg", "dropped 1.jpg", "dropped 2.jpg", "dropped 3.jpg"]);
  await page.keyboard.press("Control+z");
  await expect.poll(names).toEqual(before);
});

test("our own words are explained until a person has closed them, on each screen by itself", async ({ page }) => {
  await openGather(page);
  const words = page.getByRole("region", { name: "Words on this screen" });
  await expect(words).toContainText("a part of the show with its own pace and style");
  await words.getByRole("button", { name: "Words here" }).click();
  await expect(words).not.toContainText("a part of the show");
  await page.reload();
  await expect(words.getByRole("button", { name: "Words here", expanded: false })).toBeVisible();
  await page.getByRole("link", { name: /^Listen/ }).click();
  await expect(words).toContainText("a stretch whose beats should be checked by ear");
  // In place by the keyboard, too.
  await page.getByRole("button", { name: "doubt", exact: true }).focus();
  await expect(page.getByRole("tooltip")).toContainText("should be checked by ear");
});

test("a folder with songs and a speech: one song is taken, and about the others a person is asked", async ({
  page,
}) => {
  const created = await fetch(`${app.address}/api/shows`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ title: "One folder" }),
  });
  const { id } = (await created.json()) as { id: string };
  const files = path.join(app.folder, "demo-files");
  await page.goto(`${app.address}/shows/${id}/gather`);
  await page
    .getByLabel("Choose pictures, clips and a song")
    .setInputFiles([
      path.join(files, "voice", "greeting.wav"),
      path.join(files, "music", "Lanterns on the Water.wav"),
      path.join(files, "music", "Last Dance on the Quay.wav"),
      path.join(files, "pictures", "01 painting 1.jpg"),
    ]);
  const asked = page.getByTestId("waiting-sound");
  await expect(asked).toHaveCount(2);
  await expect
    .poll(async () => (await document(id)).songs.map(({ fileName }) => fileName))
    .toEqual(["Lanterns on the Water.wav"]);
  const greeting = asked.filter({ hasText: "greeting.wav" });
  await expect(greeting).toHaveAttribute("data-kind", "voice");
  await expect(greeting).toContainText("sounds like someone speaking");
  await greeting.getByRole("button", { name: "Use as a voice" }).click();
  await expect.poll(async () => (await document(id)).voices.length).toBe(1);
  await asked.getByRole("button", { name: "Add behind the song" }).click();
  await expect.poll(async () => (await document(id)).songs.length).toBe(2);
  await expect(asked).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await document(id)).songs.length).toBe(1);
});
