import { spawnSync } from "node:child_process";
import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { present } from "@humming-tide/core/presence";
import { clickSong, stripedJpeg } from "@humming-tide/server/testing";
import { expect, type Locator, test } from "@playwright/test";
import { hummingTide, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

let app: RunningApp;
test.beforeAll(async () => {
  app = await startApp();
});
test.afterAll(() => app.close());

test("from nothing to a film: a new show, files, an export that holds", async ({ page }) => {
  const files = path.join(app.folder, "files");
  await mkdir(files, { recursive: true });
  const names: string[] = [];
  for (let i = 1; i <= 4; i++) {
    const name =
      i === 3
        ? "3 a very long name that a phone or a careful friend may have given to it, with many words 🏮.jpg"
        : `${i}.jpg`;
    // The first ones are the largest, so that later ones overtake them on the way in.
    await writeFile(path.join(files, name), await stripedJpeg(i, 2400 - 250 * i, 1600 - 150 * i));
    names.push(name);
  }
  const { wav } = clickSong(10, 120, 0.4);
  await writeFile(path.join(files, "song.wav"), wav);
  await writeFile(path.join(files, "letter.jpg"), "Bring the lanterns.");
  await writeFile(path.join(files, "empty.jpg"), "");

  await page.goto(app.address);
  await expect(page.getByText("The shelf is empty")).toBeVisible();
  await page.getByRole("button", { name: "New show" }).click();
  await page.getByLabel("Name").fill("The crews’ film");
  await page.getByRole("button", { name: "Start" }).click();
  await expect(page.getByRole("heading", { name: "Bring in pictures and a song" })).toBeVisible();

  const chosen = [...names, "song.wav", "letter.jpg", "empty.jpg"].map((name) => path.join(files, name));
  await page.getByLabel("Choose pictures, clips and a song").first().setInputFiles(chosen);
  await expect(page.getByTestId("picture")).toHaveCount(4);
  await expect(page.locator('[data-testid="intake-file"][data-state="refused"]')).toHaveCount(2);
  await expect(page.getByText(/neither a picture nor a clip nor a song/)).toBeVisible();
  await expect(page.getByText(/The file is empty/)).toBeVisible();
  await expect(page.getByText(/4 slots over 0:\d\d/)).toBeVisible({ timeout: 30_000 });

  // In the order of their names, 2 before 10, whichever came through first.
  const inOrder = [...names].sort((a, b) => Number.parseInt(a, 10) - Number.parseInt(b, 10));
  const [show] = await showsOf(app);
  await expect
    .poll(async () => (await savedShow(app, present(show).id)).document.slides.map((slide) => slide.fileName))
    .toEqual(inOrder);

  // Undo takes the whole choice back in one step, and redo brings it in again.
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("heading", { name: "Bring in pictures and a song" })).toBeVisible();
  await page.keyboard.press("Control+Shift+z");
  await expect(page.getByTestId("picture")).toHaveCount(4);

  // The same file again is noticed.
  await page.getByRole("button", { name: "Clear" }).click();
  await page
    .getByLabel("Choose pictures, clips and a song")
    .first()
    .setInputFiles([path.join(files, "1.jpg")]);
  await expect(page.locator('[data-testid="intake-file"][data-state="already-there"]')).toHaveCount(1);
  await expect(page.getByTestId("picture")).toHaveCount(4);

  await page.getByRole("link", { name: /Hand over/ }).click();
  await page.getByRole("radio", { name: "24", exact: true }).click();
  await page.getByRole("radio", { name: "720p" }).click();
  await page.getByRole("button", { name: "Export Main film" }).click();
  const card = page.getByTestId("export");
  await expect(card).toHaveAttribute("data-state", "done", { timeout: 240_000 });
  await expect(card.getByTestId("measured")).toContainText("3 of 3 changes seen");

  const film = path.join(files, "film.mp4");
  const report = path.join(files, "report.json");
  const [filmDownload] = await Promise.all([
    page.waitForEvent("download"),
    card.getByRole("link", { name: "Download the film" }).click(),
  ]);
  await filmDownload.saveAs(film);
  const [reportDownload] = await Promise.all([
    page.waitForEvent("download"),
    card.getByRole("link", { name: "Plan (JSON)" }).click(),
  ]);
  await reportDownload.saveAs(report);
  expect(hummingTide("verify", film, "--report", report)).toMatchObject({ status: 0 });

  // The same show in another shape, another rate and another kind of file; the show itself stays as
  // it is.
  await page.getByRole("radio", { name: "9:16" }).click();
  await page.getByRole("radio", { name: "720p" }).click();
  await page.getByRole("radio", { name: "30", exact: true }).click();
  await page.getByRole("radio", { name: "WebM" }).click();
  await expect(page.getByText("720 × 1280, 30 fps").first()).toBeVisible();
  await expect(page.getByText("The show itself is laid and seen as 1920 × 1080, 25 fps.")).toBeVisible();
  await page.getByRole("button", { name: "Export Main film" }).click();
  const upright = page.getByTestId("export").filter({ hasText: "720 × 1280, 30 fps" });
  await expect(upright).toHaveAttribute("data-state", "done", { timeout: 240_000 });
  await expect(upright.getByTestId("measured")).toContainText("All is where it should be.");
  const webFilm = path.join(files, "film.webm");
  const [webDownload] = await Promise.all([
    page.waitForEvent("download"),
    upright.getByRole("link", { name: "Download the film" }).click(),
  ]);
  expect(webDownload.suggestedFilename()).toMatch(/ 720x1280\.webm$/);
  await webDownload.saveAs(webFilm);
  const probe = spawnSync("ffprobe", ["-v", "error", "-show_streams", "-of", "json", webFilm], { encoding: "utf8" });
  expect((JSON.parse(probe.stdout) as { streams: unknown[] }).streams).toMatchObject([
    { codec_name: "vp9", width: 720, height: 1280, r_frame_rate: "30/1" },
    { codec_name: "opus" },
  ]);
  // And the browser itself plays it.
  const played = await page.evaluate(
    (address) =>
      new Promise<[number, number]>((resolve, reject) => {
        const video = document.createElement("video");
        video.addEventListener("loadeddata", () => resolve([video.videoWidth, video.videoHeight]));
        video.addEventListener("error", () => reject(new Error("cannot be played")));
        video.src = address;
      }),
    await upright
      .getByRole("link", { name: "Download the film" })
      .getAttribute("href")
      .then((href) => present(href)),
  );
  expect(played).toEqual([720, 1280]);
});

test("a show without pictures or song says on every screen what is wanted next", async ({ page }) => {
  const created = (await (
    await fetch(`${app.address}/api/shows`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ title: "Empty" }),
    })
  ).json()) as { id: string };
  for (const [screen, text] of [
    ["score", "No film yet"],
    ["listen", "No song yet"],
    ["dress", "No film to dress yet"],
    ["hand-over", "No film to hand over yet"],
  ] as const) {
    await page.goto(`${app.address}/shows/${created.id}/${screen}`);
    await expect(page.getByRole("heading", { name: text })).toBeVisible();
    await page.getByRole("link", { name: "To Gather" }).click();
    await expect(page.getByRole("heading", { name: "Bring in pictures and a song" })).toBeVisible();
  }
  await page.goto(`${app.address}/shows/nobody/score`);
  await expect(page.getByText("This show cannot be opened")).toBeVisible();
});

test("the first film takes four presses and one drop, and each next step is said", async ({ page }) => {
  const fresh = await startApp();
  const files = path.join(fresh.folder, "first");
  await mkdir(files, { recursive: true });
  for (let i = 1; i <= 4; i++) await writeFile(path.join(files, `${i}.jpg`), await stripedJpeg(i));
  await writeFile(path.join(files, "song.wav"), clickSong(6, 120).wav);
  const [presses, drops] = [[] as string[], [] as string[]];
  const press = async (name: string, button: Locator): Promise<void> => {
    await button.click();
    presses.push(name);
  };

  await page.goto(fresh.address);
  await expect(page.getByText(/Start one with “New show”/)).toBeVisible();
  await press("New show", page.getByRole("button", { name: "New show" }));
  await page.keyboard.type("First night");
  await press("Start", page.getByRole("button", { name: "Start" }));
  await expect(page.getByText(/Drop files or whole folders here/)).toBeVisible();
  const dropped = ["1.jpg", "2.jpg", "3.jpg", "4.jpg", "song.wav"].map((name) => path.join(files, name));
  await page.getByLabel("Choose pictures, clips and a song").first().setInputFiles(dropped);
  drops.push("files");
  await expect(page.getByText(/The film is laid and lasts 0:0\d/)).toBeVisible({ timeout: 30_000 });
  await press("export it", page.getByRole("link", { name: "export it" }));
  await press("Export", page.getByRole("button", { name: "Export Main film" }));
  await expect(page.getByTestId("export")).toHaveAttribute("data-state", "done", { timeout: 90_000 });
  await expect(page.getByRole("link", { name: "Download the film" })).toBeVisible();
  expect([presses.length, drops.length]).toEqual([4, 1]);
  await fresh.close();
});
