import { mkdtemp, readFile, rm } from "node:fs/promises";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import type { StudioClientPage } from "@humming-tide/contract";
import { itemAt, present } from "@humming-tide/core/presence";
import { mainOutput, type Slide } from "@humming-tide/core/show";
import { type RunningStandIns, startStandIns } from "@humming-tide/stand-ins";
import { expect, type Page, test } from "@playwright/test";
import { findings } from "./axe-findings.ts";
import { copyDemo, editShow, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

test.describe.configure({ mode: "serial" });

let app: RunningApp;
let standIns: RunningStandIns;
let standInsFolder: string;
let showId: string;

test.beforeAll(async () => {
  standInsFolder = await mkdtemp(path.join(tmpdir(), "humming-tide-stand-ins-"));
  standIns = await startStandIns({ port: 0, folder: standInsFolder, processingMs: 800 });
  app = await startApp(copyDemo, ["--services", standIns.address]);
  showId = present((await showsOf(app)).find(({ title }) => title.startsWith("Closing night"))).id;
  // A small film of some bars: what is tried here is not how films are drawn.
  await editShow(app, showId, (show) => {
    const main = mainOutput({ size: { width: 320, height: 180 }, frameRate: show.frameRate });
    const part = { songId: itemAt(show.songs, 0).id, startSeconds: 0, endSeconds: 12, barsPerSlide: null };
    return { ...show, outputs: [{ ...main, name: "Preview", quality: "small", part }] };
  });
});
test.afterAll(async () => {
  await app.close();
  await standIns.close();
  await rm(standInsFolder, { recursive: true, force: true });
});

const pageFacts = async (): Promise<StudioClientPage> =>
  (await (await fetch(`${app.address}/api/shows/${showId}/client-page`)).json()) as StudioClientPage;

const openPart = async (page: Page, part: "client" | "publish"): Promise<void> => {
  await page.goto(`${app.address}/shows/${showId}/hand-over?part=${part}`);
};

const publish = async (studio: Page, note: string, version: number): Promise<void> => {
  await studio.getByRole("textbox", { name: /A word to go with it|What is new in it/ }).fill(note);
  await studio.getByRole("button", { name: `Publish version ${version}` }).click();
  const card = studio.getByTestId("version").filter({ hasText: `Version ${version}` });
  await expect(card).toHaveAttribute("data-state", "live", { timeout: 180_000 });
  await expect(card).toContainText("the client sees it");
};

test("studio and client, each in a browser of their own: PIN, film, comment, answer, new version, payment, download", async ({
  browser,
}) => {
  const [studioContext, clientContext] = [await browser.newContext(), await browser.newContext()];
  const [studio, client] = [await studioContext.newPage(), await clientContext.newPage()];

  await openPart(studio, "client");
  await studio.getByRole("button", { name: "Open a client page" }).click();
  await studio.getByRole("textbox", { name: /^PIN/ }).fill("0427");
  await studio.getByRole("button", { name: "Ask for this PIN" }).click();
  await expect(studio.getByRole("textbox", { name: "PIN: one is set" })).toBeVisible();
  await studio.getByRole("textbox", { name: "Greeting" }).fill("Dear crews, here it is.");
  await studio.getByRole("textbox", { name: "Name", exact: true }).fill("Harbour Films");
  await studio.getByRole("checkbox", { name: "Downloads", exact: true }).check();
  await studio.getByRole("checkbox", { name: "Only when paid for" }).check();
  await studio.getByRole("textbox", { name: "Price" }).fill("80.5");
  await expect(studio.getByText(/The client pays EUR\s80\.50/)).toBeVisible();
  await expect(studio.getByText(/a film of at most 960 pixels with a watermark/)).toBeVisible();
  await publish(studio, "First cut", 1);
  const address = await studio.getByRole("textbox", { name: "Address of the client page" }).inputValue();
  expect(new URL(address).port).not.toBe(new URL(app.address).port);

  await client.goto(address);
  const pin = client.getByRole("textbox", { name: "The PIN that came with the address" });
  expect(await findings(client)).toEqual([]);
  await pin.fill("1111");
  await client.getByRole("button", { name: "To the film" }).click();
  await expect(client.getByText("This is not the PIN.")).toBeVisible();
  await pin.fill("0427");
  await client.getByRole("button", { name: "To the film" }).click();
  await expect(client.getByRole("heading", { name: "Closing night of the lantern regatta" })).toBeVisible();
  await expect(client.getByText("Harbour Films")).toBeVisible();
  await expect(client.getByText("Dear crews, here it is.")).toBeVisible();
  const video = client.locator("video");
  await expect(video).toHaveAttribute("poster", /\/cover\?session=/);
  await client.getByRole("button", { name: "Play", exact: true }).click();
  await expect.poll(() => video.evaluate((element: HTMLVideoElement) => element.currentTime)).toBeGreaterThan(1);
  await client.getByRole("button", { name: "Stop", exact: true }).click();

  // At the third slide, by its keys.
  await client.locator("h1").click();
  await client.keyboard.press("Home");
  await video.evaluate((element: HTMLVideoElement) => {
    element.currentTime = 0;
  });
  await client.keyboard.press("ArrowRight");
  await client.keyboard.press("ArrowRight");
  await client.getByPlaceholder("What would you like changed?").fill("Could this one go, please?");
  await client.getByRole("textbox", { name: "Your name" }).fill("Maren");
  await client.getByRole("button", { name: "Send" }).click();
  await expect(client.getByTestId("comment")).toContainText("Could this one go, please?");
  expect(await findings(client)).toEqual([]);

  // In the studio it stands at the slide that was seen.
  const [comment] = (await pageFacts()).comments;
  await studio.goto(`${app.address}/shows/${showId}/score`);
  const slot = studio.locator(`[data-testid="slot"][data-slide="${present(comment).slideId}"]`).first();
  // Only rows in sight exist.
  await expect(async () => {
    await studio.getByTestId("score").evaluate((rows) => rows.scrollBy(0, 300));
    await expect(slot).toHaveAttribute("aria-label", /the client has said something/, { timeout: 1000 });
  }).toPass({ timeout: 20_000 });
  await slot.click();
  const thread = studio.getByRole("list", { name: "Comments of the client" });
  await expect(thread).toContainText("Could this one go, please?");
  await thread.getByRole("textbox", { name: "Answer Maren" }).fill("Gone.");
  await thread.getByRole("button", { name: "Send" }).click();
  await expect(thread).toContainText("Gone.");
  // The change that answers it is tied to it.
  const atSlide = (change: Partial<Slide>) =>
    editShow(app, showId, (show) => ({
      ...show,
      slides: show.slides.map((slide) => (slide.id === present(comment).slideId ? { ...slide, ...change } : slide)),
    }));
  const asked = studio.waitForResponse(
    (response) => response.request().method() === "GET" && response.url().endsWith(`/api/shows/${showId}`),
  );
  await atSlide({ caption: "The first boat" });
  // The page takes over what was saved elsewhere, as a step that can be undone. Something else may
  // be undone already, so that its question is waited for.
  await (await asked).finished();
  await expect(studio.getByRole("button", { name: "Undo (Ctrl+Z)" })).toBeEnabled();
  await thread.getByRole("checkbox", { name: "Done" }).click();
  await expect(thread).toHaveCount(0);
  // What is changed later is not, and both are in what the client is told.
  await atSlide({ rating: "out" });
  await openPart(studio, "client");
  await expect(studio.getByTestId("answer")).toHaveText(/^Changed for it: “[^”]+” captioned\.$/);
  await studio.getByRole("button", { name: "Fill in what changed since version 1" }).click();
  await expect(studio.getByRole("textbox", { name: /What is new/ })).toHaveValue(
    /“Could this one go, please\?” \(\d:\d\d: “[^”]+” captioned\)\. .*rated/,
  );
  await publish(studio, "Without that one", 2);
  await expect(client.getByText("A new version of the film is here.")).toBeVisible({ timeout: 30_000 });
  await expect(client.getByTestId("comment")).toContainText("Gone.");
  await expect(client.getByTestId("comment")).toHaveAttribute("data-done", "true");
  await client.getByRole("button", { name: "Show it" }).click();
  await expect(client.getByText(/version 2: Without that one/)).toBeVisible();
  await expect.poll(() => video.evaluate((element: HTMLVideoElement) => element.readyState)).toBeGreaterThan(1);

  // Paying: refused, left, paid.
  const pay = client.getByRole("button", { name: /Pay EUR\s80\.50 and download/ });
  for (const [press, said] of [
    ["Pay with a card that is refused", /The payment was refused/],
    ["Leave without paying", /The payment was not finished/],
  ] as const) {
    await pay.click();
    await client.getByRole("button", { name: press }).click();
    await expect(client.getByText(said)).toBeVisible();
  }
  await pay.click();
  await client.getByRole("button", { name: "Pay", exact: true }).click();
  const link = client.getByRole("link", { name: /Download the film/ });
  await expect(link).toBeVisible();
  const [file] = await Promise.all([client.waitForEvent("download"), link.click()]);
  expect(file.suggestedFilename()).toBe("Closing night of the lantern regatta, Preview 180p.mp4");
  expect((await readFile(await file.path())).subarray(4, 8).toString()).toBe("ftyp");
  await expect
    .poll(async () => (await pageFacts()).payments.map(({ state }) => state))
    .toEqual(["paid", "abandoned", "refused"]);
  await expect(studio.getByTestId("payment").first()).toContainText(/EUR\s80\.50, paid/, { timeout: 20_000 });

  // Closed at once, also for who is in.
  await studio.getByRole("checkbox", { name: "Shown" }).uncheck();
  await expect(studio.getByTestId("client-page-state")).toContainText("Hidden");
  await expect(client.getByText("This page is closed.", { exact: false })).toBeVisible({ timeout: 30_000 });
  await studioContext.close();
  await clientContext.close();
});

test("a page elsewhere may show it in a frame where the studio says so, and nobody else", async ({ page }) => {
  const { page: known } = await pageFacts();
  // One page under two names.
  const elsewhere = createServer((_request, response) => {
    response.setHeader("Content-Type", "text/html").end(`<h1>Elsewhere</h1>${present(known).embedCode}`);
  });
  await new Promise<void>((resolve) => elsewhere.listen(0, "127.0.0.1", resolve));
  const { port } = elsewhere.address() as AddressInfo;
  await fetch(`${app.address}/api/shows/${showId}/client-page`, {
    method: "PUT",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ pin: null, shown: true, expiresAt: null, embedOrigins: [`http://localhost:${port}`] }),
  });
  try {
    const title = page.frameLocator("iframe").getByRole("heading", { name: "Closing night of the lantern regatta" });
    await page.goto(`http://localhost:${port}/`);
    await expect(title).toBeVisible();
    await page.goto(`http://127.0.0.1:${port}/`);
    await expect(page.getByRole("heading", { name: "Elsewhere" })).toBeVisible();
    await page.waitForTimeout(1500);
    await expect(title).toHaveCount(0);
  } finally {
    elsewhere.closeAllConnections();
    elsewhere.close();
  }
});

test("a film goes to the video site and onto a disc, through what goes wrong with both", async ({ page, context }) => {
  await openPart(page, "publish");
  await page.getByRole("textbox", { name: "Account" }).fill("lantern");
  await page.getByRole("textbox", { name: "Password" }).fill("regatta");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByText("Signed in as lantern")).toBeVisible();
  standIns.troubles.ask("video-chunk-lost");
  standIns.troubles.ask("video-processing-fails");
  await page.getByRole("textbox", { name: "Title" }).fill("Closing night");
  await page.getByRole("button", { name: "Publish the film" }).click();
  const video = page.locator('[data-testid="delivery"][data-kind="video"]');
  await expect(video).toHaveAttribute("data-state", "failed", { timeout: 60_000 });
  await expect(video).toContainText("could not be processed");
  await video.getByRole("button", { name: "Try again" }).click();
  await expect(video).toHaveAttribute("data-state", "done", { timeout: 60_000 });
  const published = await video.getByRole("link").getAttribute("href");
  const site = await context.newPage();
  await site.goto(present(published));
  await expect(site.getByRole("heading", { name: "Closing night" })).toBeVisible();

  // A disc is put in by hand, at the drive.
  await expect(page.getByTestId("drive")).toContainText("There is no disc in the drive.");
  await expect(page.getByRole("button", { name: "Burn the disc" })).toBeDisabled();
  await site.goto(standIns.address);
  await site.getByRole("button", { name: "The drive stops half way through the disc" }).click();
  await site.getByRole("button", { name: "Put in a blank disc, 4.7 GB" }).click();
  await expect(page.getByTestId("drive")).toContainText("A blank disc (4.7 GB) is in the drive.", { timeout: 15_000 });
  await page.getByRole("button", { name: "Burn the disc" }).click();
  const disc = page.locator('[data-testid="delivery"][data-kind="disc"]');
  await expect(disc).toHaveAttribute("data-state", "failed", { timeout: 60_000 });
  await expect(disc).toContainText("The disc is spoilt");
  await site.getByRole("button", { name: "Put in a blank disc, 4.7 GB" }).click();
  await disc.getByRole("button", { name: "Try again" }).click();
  await expect(disc).toHaveAttribute("data-state", "done", { timeout: 60_000 });
  await expect(disc).toContainText("Written and verified.");
  const folder = itemAt(present(/The folder of the disc: (\S+)/.exec((await disc.textContent()) ?? "")), 1);
  const { document } = await savedShow(app, showId);
  const menu = await context.newPage();
  await menu.goto(`file://${folder}/index.html`);
  // So short a film has no room for a picture of each passage.
  const chapters = new RegExp(document.passages.map(({ name }) => name).join("|"));
  await expect(menu.getByRole("link", { name: chapters }).first()).toBeVisible();
  await menu.getByRole("link", { name: "Play the film" }).click();
  await expect
    .poll(() => menu.locator("video").evaluate((film: HTMLVideoElement) => film.currentTime))
    .toBeGreaterThan(0.5);
});
