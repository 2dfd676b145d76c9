import { mkdir, rm } from "node:fs/promises";
import path from "node:path";
import type { ExportJob } from "@humming-tide/contract";
import { itemAt, present } from "@humming-tide/core/presence";
import { mainOutput } from "@humming-tide/core/show";
import { expect, type Page, test } from "@playwright/test";
import { copyDemo, editShow, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

let app: RunningApp;
let showId: string;
test.beforeAll(async () => {
  app = await startApp(copyDemo);
  showId = present((await showsOf(app)).find(({ title }) => title === "Dance on the quay")).id;
});
test.afterAll(() => app.close());

/** Every picture on the page has come. */
const expectPictures = (page: Page): Promise<void> =>
  expect
    .poll(() =>
      page.evaluate(() => {
        const pictures = [...document.images];
        return pictures.length > 0 && pictures.every(({ complete, naturalWidth }) => complete && naturalWidth > 0);
      }),
    )
    .toBe(true);

const isStageDrawn = (page: Page): Promise<boolean> =>
  page.getByTestId("stage").evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
    return data.some((value, i) => i % 4 !== 3 && value > 40);
  });

test("without its derived files a show is seen on every screen, heard and exported: all of them are made again", async ({
  page,
}) => {
  const derived = path.join(app.folder, "data", "derived");
  const visit = async (screen: string): Promise<void> => {
    await page.goto(`${app.address}/shows/${showId}/${screen}`);
    await expect(page.getByTestId("save-status")).toContainText("Saved");
  };
  await rm(derived, { recursive: true });
  await mkdir(derived);
  await page.goto(app.address);
  await expectPictures(page);
  await visit("gather");
  await expectPictures(page);
  await visit("listen");
  await expect(page.getByTestId("whole-song")).toBeVisible();
  await visit("score");
  await expect(page.getByTestId("landing").first()).toBeVisible();
  await expect.poll(() => isStageDrawn(page)).toBe(true);

  // Single files go while the server runs.
  const { document } = await savedShow(app, showId);
  const { sha256 } = itemAt(document.slides, 0);
  const song = itemAt(document.songs, 0).sha256;
  for (const [of, file] of [
    [present(sha256), "working.jpg"],
    [present(sha256), "thumbnail.webp"],
    [song, "analysis.json"],
    [song, "sound.flac"],
  ] as const)
    await rm(path.join(derived, of.slice(0, 2), of, file));
  await visit("dress");
  await expect.poll(() => isStageDrawn(page)).toBe(true);
  await visit("hand-over");
  await editShow(app, showId, (show) => {
    const main = mainOutput({ size: { width: 320, height: 180 }, frameRate: show.frameRate });
    const part = { songId: itemAt(show.songs, 0).id, startSeconds: 0, endSeconds: 8, barsPerSlide: null };
    return { ...show, outputs: [{ ...main, part }] };
  });
  const exported = await fetch(`${app.address}/api/shows/${showId}/exports`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ outputIds: ["main"] }),
  });
  expect(exported.status).toBe(201);
  const job = async (): Promise<ExportJob> =>
    itemAt((await (await fetch(`${app.address}/api/shows/${showId}/exports`)).json()) as ExportJob[], 0);
  await expect.poll(async () => (await job()).state, { timeout: 120_000 }).toBe("done");
  expect(await job()).toMatchObject({ measurement: { ok: true } });
});
