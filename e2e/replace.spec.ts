import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { ffmpeg, stripedJpeg } from "@humming-tide/server/testing";
import { expect, type Locator, type Page, test } from "@playwright/test";
import { allSaved, leaveSaved } from "./all-saved.ts";
import { copyDemo, editShow, plannedFilm, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/** Another file in a slide's place, in all three places, and a folder of retouched ones. */
test.describe.configure({ mode: "serial" });

let app: RunningApp;
let showId: string;
let files: string;

const LOCKED = { seconds: 12, turn: 0, exact: false };

test.beforeAll(async () => {
  test.setTimeout(240_000);
  app = await startApp(copyDemo);
  showId = present((await showsOf(app)).find(({ title }) => title.startsWith("Closing night"))).id;
  files = path.join(app.folder, "retouched");
  await mkdir(files, { recursive: true });
  await writeFile(path.join(files, "01 painting 1-edit.jpg"), await stripedJpeg(3, 640, 360));
  await writeFile(path.join(files, "02 PAINTING 2.jpg"), await stripedJpeg(4, 640, 360));
  await writeFile(path.join(files, "nobody knows.jpg"), await stripedJpeg(5, 640, 360));
  ffmpeg([
    "-f",
    "lavfi",
    "-i",
    "testsrc=duration=4:size=320x180:rate=25",
    "-pix_fmt",
    "yuv420p",
    path.join(app.folder, "boat.mp4"),
  ]);
  await editShow(app, showId, (show) => ({
    ...show,
    slides: show.slides.map((slide, i) =>
      i < 8
        ? {
            ...slide,
            caption: `Lantern ${i}`,
            landingLock: i === 3 ? { ...LOCKED, songId: itemAt(show.songs, 0).id } : slide.landingLock,
          }
        : slide,
    ),
  }));
});
test.afterEach(leaveSaved);
test.afterAll(() => app.close());

const slides = async () => (await savedShow(app, showId)).document.slides;
const open = async (page: Page, screen: string): Promise<void> => {
  await page.goto(`${app.address}/shows/${showId}/${screen}`);
  await expect(page.getByTestId("save-status")).toBeVisible();
};

/** Drops a picture of its own kind from the machine on the middle of something. */
async function dropOn(target: Locator, fileName: string, seed: number): Promise<void> {
  const bytes = [...(await stripedJpeg(seed, 320, 180))];
  const box = present(await target.boundingBox());
  const at = { clientX: box.x + box.width / 2, clientY: box.y + box.height / 2 };
  const transfer = await target.page().evaluateHandle(
    ({ bytes, fileName }) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], fileName, { type: "image/jpeg" }));
      return data;
    },
    { bytes, fileName },
  );
  await target.dispatchEvent("dragover", { dataTransfer: transfer, ...at });
  await expect(target.page().getByText(/^Drop to replace “/)).toBeVisible();
  await target.dispatchEvent("drop", { dataTransfer: transfer, ...at });
}

test("dropped on a picture in Gather it takes its place; between pictures it comes in beside them", async ({
  page,
}) => {
  const before = await slides();
  await open(page, "gather");
  await dropOn(page.locator(`[data-testid="picture"][data-file="01 painting 1.jpg"]`), "from the drop.jpg", 21);
  await expect(page.getByText(/“from the drop.jpg” has taken the place of “01 painting 1.jpg”/)).toBeVisible();
  await expect.poll(async () => itemAt(await slides(), 0).fileName).toBe("from the drop.jpg");
  const after = await slides();
  expect(after).toHaveLength(before.length);
  expect(after[0]).toMatchObject({ id: itemAt(before, 0).id, caption: "Lantern 0" });
  expect(itemAt(after, 0).formerFiles[0]).toMatchObject({
    fileName: "01 painting 1.jpg",
    sha256: itemAt(before, 0).sha256,
  });
});

test("on the Score: by a drop, which keeps the lock, and by the dialog, from where the old file comes back", async ({
  page,
}) => {
  await open(page, "score");
  const slot = page.locator(`[data-testid="slot"][data-slide="${itemAt(await slides(), 3).id}"]`);
  const planned = present((await plannedFilm(app, showId)).slots.find(({ slideIndex }) => slideIndex === 3));
  expect(planned.locked).toBe(true);
  await dropOn(slot, "sharper.jpg", 22);
  await expect.poll(async () => itemAt(await slides(), 3).fileName).toBe("sharper.jpg");
  expect(itemAt(await slides(), 3).landingLock).toMatchObject(LOCKED);
  const after = present((await plannedFilm(app, showId)).slots.find(({ slideIndex }) => slideIndex === 3));
  expect([after.startFrame, after.endFrame, after.locked]).toEqual([planned.startFrame, planned.endFrame, true]);

  await slot.click();
  await page.getByRole("button", { name: "Replace picture …" }).click();
  await page.getByRole("button", { name: "Put back 04 painting 4.jpg" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect.poll(async () => itemAt(await slides(), 3).fileName).toBe("04 painting 4.jpg");
  expect(itemAt(await slides(), 3).formerFiles.map(({ fileName }) => fileName)).toEqual(["sharper.jpg"]);
});

test("on Dress: a clip takes a picture's place from the dialog; what is no picture is refused with the reason", async ({
  page,
}) => {
  await open(page, "score");
  await page.locator(`[data-testid="slot"][data-slide="${itemAt(await slides(), 5).id}"]`).click();
  await page.getByRole("link", { name: /Dress/ }).click();
  await expect(page.locator("aside header")).toContainText(itemAt(await slides(), 5).fileName);
  await page.getByRole("button", { name: "Replace picture …" }).click();
  const song = path.join(app.folder, "sound.wav");
  ffmpeg(["-f", "lavfi", "-i", "sine=duration=3", song]);
  await page.getByLabel("Choose the new file").setInputFiles(song);
  await expect(page.getByRole("dialog").getByText(/A slide shows a picture or a clip/)).toBeVisible();
  await page.getByLabel("Choose the new file").setInputFiles(path.join(app.folder, "boat.mp4"));
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect.poll(async () => itemAt(await slides(), 5).fileName).toBe("boat.mp4");
  expect((await slides())[5]).toMatchObject({ caption: "Lantern 5" });
  await allSaved(page);
  // The stage takes files too.
  await dropOn(page.getByTestId("stage"), "still again.jpg", 23);
  await expect.poll(async () => itemAt(await slides(), 5).fileName).toBe("still again.jpg");
  await page.keyboard.press("Control+z");
  await expect.poll(async () => itemAt(await slides(), 5).fileName).toBe("boat.mp4");
});

test("a picture that is not in the film changes places with one that is", async ({ page }) => {
  await editShow(app, showId, (show) => ({
    ...show,
    slides: show.slides.map((slide, i) => (i === 10 ? { ...slide, rating: "out" as const } : slide)),
  }));
  const before = await slides();
  await open(page, "score");
  await page.locator(`[data-testid="slot"][data-slide="${itemAt(before, 7).id}"]`).click();
  await page.getByRole("button", { name: "Replace picture …" }).click();
  await page.getByRole("button", { name: `Use ${itemAt(before, 10).fileName} here` }).click();
  await expect.poll(async () => itemAt(await slides(), 7).fileName).toBe(itemAt(before, 10).fileName);
  expect((await slides())[10]).toMatchObject({ fileName: itemAt(before, 7).fileName, rating: "out" });
  expect((await slides())[7]).toMatchObject({ id: itemAt(before, 7).id, caption: "Lantern 7" });
});

test("a folder of retouched pictures: what matched is shown, and nothing happens before it is confirmed", async ({
  page,
}) => {
  await editShow(app, showId, (show) => ({
    ...show,
    slides: show.slides.map((slide, i) =>
      i === 0 ? { ...slide, ...itemAt(slide.formerFiles, 0), formerFiles: [] } : slide,
    ),
  }));
  const before = await slides();
  await open(page, "gather");
  await page.getByLabel("Choose retouched pictures").setInputFiles(files);
  const list = page.getByRole("list", { name: "Pictures and what replaces them" });
  await expect(list.getByRole("listitem")).toHaveCount(2);
  await expect(page.getByText(/1 file without a picture here: .*nobody knows.jpg/)).toBeVisible();
  expect((await slides()).map(({ sha256 }) => sha256)).toEqual(before.map(({ sha256 }) => sha256));
  await page.getByRole("button", { name: "Replace 2 pictures" }).click();
  await expect
    .poll(async () => (await slides()).filter((slide, i) => slide.sha256 !== itemAt(before, i).sha256).length)
    .toBe(2);
  const after = await slides();
  expect(after.slice(0, 2).map(({ id, caption }) => [id, caption])).toEqual(
    before.slice(0, 2).map(({ id, caption }) => [id, caption]),
  );
  // One step takes all of them back.
  await page.keyboard.press("Control+z");
  await expect
    .poll(async () => (await slides()).map(({ sha256 }) => sha256))
    .toEqual(before.map(({ sha256 }) => sha256));
});
