import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import { clickSong, stripedJpeg } from "@humming-tide/server/testing";
import { expect, type Page, test } from "@playwright/test";
import { allSaved } from "./all-saved.ts";
import { copyDemo, plannedFilm, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/** The shelf, and what must never be lost. One server with the demo for all tests. */
test.describe.configure({ mode: "serial" });

let app: RunningApp;
let showId: string;
const MAIN = "Closing night of the lantern regatta";

test.beforeAll(async () => {
  test.setTimeout(240_000);
  app = await startApp(copyDemo);
  showId = present((await showsOf(app)).find(({ title }) => title === MAIN)).id;
});
test.afterAll(() => app.close());

const card = (page: Page, title: string) =>
  page.getByRole("article").filter({ has: page.getByRole("heading", { name: title, exact: true }) });
const cardMenu = async (page: Page, title: string, item: string): Promise<void> => {
  await page.getByRole("button", { name: `More for ${title}`, exact: true }).click();
  await page.getByRole("menuitem", { name: item }).click();
};
const showMenu = async (page: Page, item: RegExp): Promise<void> => {
  await page.getByRole("button", { name: /^The show:/ }).click();
  await page.getByRole("menuitem", { name: item }).click();
};
const titleOf = async (): Promise<string> => (await savedShow(app, showId)).document.title;
async function rename(page: Page, title: string): Promise<void> {
  await page.getByRole("textbox", { name: "Name of the show" }).fill(title);
  await page.keyboard.press("Enter");
}

test("shows are found, duplicated, archived, deleted and brought back", async ({ page }) => {
  await page.goto(app.address);
  await expect(page.getByRole("article")).toHaveCount(4);
  await page.getByLabel("Search shows").fill("north QUAY race");
  await expect(page.getByRole("article")).toHaveCount(1);
  await expect(card(page, "The race, for the crews")).toBeVisible();
  await page.getByLabel("Search shows").fill("nobody");
  await expect(page.getByText(/No show here has all of/)).toBeVisible();
  await page.getByLabel("Search shows").fill("");

  await cardMenu(page, "Dance on the quay", "Duplicate");
  await expect(card(page, "Dance on the quay (copy)")).toBeVisible();
  const shows = await showsOf(app);
  const [one, two] = ["Dance on the quay", "Dance on the quay (copy)"].map((title) =>
    present(shows.find((show) => show.title === title)),
  );
  expect((await plannedFilm(app, present(two).id)).slots).toEqual((await plannedFilm(app, present(one).id)).slots);

  await cardMenu(page, "Dance on the quay (copy)", "Archive");
  await expect(page.getByRole("article")).toHaveCount(4);
  await page.getByRole("radio", { name: "Archived 1" }).click();
  await cardMenu(page, "Dance on the quay (copy)", "Delete");
  await page.getByRole("radio", { name: "Deleted 1" }).click();
  await expect(page.getByText("goes for good in 30 days")).toBeVisible();
  await page.goto(`${app.address}/shows/${present(two).id}/gather`);
  await expect(page.getByText(/It can be brought back on the shelf for 30 days/)).toBeVisible();
  await page.goto(app.address);
  await page.getByRole("radio", { name: "Deleted 1" }).click();
  await page.getByRole("button", { name: "Bring back" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("radio", { name: "Deleted 1" })).toBeVisible();
});

test("facts of the show and its poster stand on the shelf", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/gather`);
  await page.getByRole("radio", { name: "S", exact: true }).click();
  await page.locator('[data-file="19 lanterns 3.jpg"]').click();
  await page.getByRole("button", { name: "More for 1 …" }).click();
  await page.getByRole("menuitem", { name: "Use as the show’s poster" }).click();
  await showMenu(page, /About the show/);
  await expect(page.getByAltText("Poster: 19 lanterns 3.jpg")).toBeVisible();
  await page.getByLabel("Client").fill("The harbour master");
  await page.getByLabel("Date").fill("2031-06-22");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await allSaved(page);
  const { document } = await savedShow(app, showId);
  expect(document).toMatchObject({ client: "The harbour master", date: "2031-06-22" });
  await page.goto(app.address);
  await expect(card(page, MAIN)).toContainText("The harbour master");
  // The film's length beside the song's, from the plan of the saved show.
  const { totalFrames, rate } = await plannedFilm(app, showId);
  const seconds = Math.round((totalFrames * rate.den) / rate.num);
  await expect(card(page, MAIN).getByTestId("lengths")).toContainText(
    `song 3:02 · film ${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`,
  );
  const poster = present(document.slides.find(({ fileName }) => fileName === "19 lanterns 3.jpg"));
  await expect(card(page, MAIN).locator("img")).toHaveAttribute("src", new RegExp(present(poster.sha256)));
});

test("a template takes style and rules from one show into others, and no media", async ({ page }) => {
  const race = present((await showsOf(app)).find(({ title }) => title.startsWith("The race")));
  await page.goto(`${app.address}/shows/${race.id}/dress`);
  await showMenu(page, /Save as a template/);
  await page.getByLabel("Name of the template").fill("Fast and hard");
  await page.getByRole("button", { name: "Save the template" }).click();
  await expect(page.getByText(/Saved as the template/)).toBeVisible();

  await page.goto(app.address);
  await page.getByRole("button", { name: "New show" }).click();
  await page.getByLabel("Name").fill("From the template");
  await page.getByLabel("Style and rules").selectOption({ label: "Fast and hard" });
  await page.getByRole("button", { name: "Start" }).click();
  await expect(page.getByRole("heading", { name: "Bring in pictures and a song" })).toBeVisible();
  const made = present((await showsOf(app)).find(({ title }) => title === "From the template"));
  const begun = (await savedShow(app, made.id)).document;
  expect(begun).toMatchObject({
    style: { transition: { kind: "cut" } },
    pace: { kind: "bars", count: 1 },
    songs: [],
  });
  // Its credits come along, its pictures do not.
  expect(begun.slides.map(({ sha256, words }) => [sha256, words[0]?.kind])).toEqual([
    [null, "title"],
    [null, "credits"],
  ]);

  await page.goto(`${app.address}/shows/${showId}/dress`);
  await showMenu(page, /Apply a template/);
  await page.getByRole("button", { name: "Apply", exact: true }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document.pace.kind).toBe("bars");
  expect((await savedShow(app, showId)).document.slides).toHaveLength(60);
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await savedShow(app, showId)).document.pace.kind).toBe("auto");
});

test("a second show begins from a template with its cards, in five clicks and under a minute", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/dress`);
  await showMenu(page, /About the show/);
  await page.getByLabel("Date").fill("2031-06-21");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.getByRole("link", { name: /Gather/ }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  for (const kind of ["Title", "End card"]) {
    await page.getByRole("button", { name: "Card", exact: true }).click();
    await page.getByRole("menuitem", { name: kind, exact: true }).click();
  }
  await showMenu(page, /Save as a template/);
  await page.getByLabel("Name of the template").fill("Regatta nights");
  await page.getByRole("button", { name: "Save the template" }).click();
  await expect(page.getByText(/Saved as the template/)).toBeVisible();
  await allSaved(page);
  for (let undone = 0; undone < 3; undone++) await page.keyboard.press("Control+z");
  await allSaved(page);

  const files = path.join(app.folder, "second event");
  await mkdir(files, { recursive: true });
  for (let i = 1; i <= 4; i++) await writeFile(path.join(files, `${i}.jpg`), await stripedJpeg(60 + i, 1200, 800));
  await writeFile(path.join(files, "second song.wav"), clickSong(20, 120, 0.4).wav);

  await page.addInitScript(() => {
    // Only what a person does: a press of Enter in a form also makes a click, on no place.
    const key = "clicks of the test";
    const count = ({ isTrusted, detail }: MouseEvent): void => {
      if (isTrusted && detail > 0) sessionStorage.setItem(key, String(Number(sessionStorage.getItem(key) ?? 0) + 1));
    };
    addEventListener("click", count, true);
  });
  await page.goto(app.address);
  const began = Date.now();
  await page.getByRole("button", { name: "New show" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Summer dance");
  await page.getByLabel("Style and rules").selectOption({ label: "Regatta nights" });
  await page.getByLabel("Date of the event").fill("2032-07-03");
  await page.getByRole("button", { name: "Start" }).click();
  await expect(page.getByRole("heading", { name: "Bring in pictures and a song" })).toBeVisible();
  await page.getByRole("button", { name: "Bring in pictures and a song" }).click();
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("menuitem", { name: "Choose a folder …" }).click();
  await (await chooser).setFiles(files);
  await page.getByRole("link", { name: "To the Score" }).click({ timeout: 60_000 });
  await expect(page).toHaveURL(/\/score$/);
  expect((Date.now() - began) / 1000).toBeLessThan(60);
  expect(Number(await page.evaluate(() => sessionStorage.getItem("clicks of the test")))).toBe(5);

  const made = present((await showsOf(app)).find(({ title }) => title === "Summer dance"));
  const { document } = await savedShow(app, made.id);
  expect(document.slides.map(({ fileName, words }) => words[0]?.text ?? fileName)).toEqual([
    "Summer dance\n3 July 2032",
    ...[1, 2, 3, 4].map((i) => `${i}.jpg`),
    "Thank you\n3 July 2032",
  ]);
});

test("a package is saved and opened again; a damaged one is refused with the reason", async ({ page }) => {
  await page.goto(app.address);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    cardMenu(page, "Dance on the quay", "Save as a package, with all media"),
  ]);
  expect(download.suggestedFilename()).toBe("Dance on the quay.tide.zip");
  const file = path.join(app.folder, "dance.zip");
  await download.saveAs(file);
  await page.getByLabel("Choose a package").setInputFiles(file);
  await expect(page).toHaveURL(/\/score$/, { timeout: 60_000 });
  const openedId = itemAt(new URL(page.url()).pathname.split("/"), 2);
  const original = present(
    (await showsOf(app)).find(({ id, title }) => title === "Dance on the quay" && id !== openedId),
  );
  expect((await savedShow(app, openedId)).document).toEqual((await savedShow(app, original.id)).document);

  const bytes = await readFile(file);
  bytes[Math.floor(bytes.length / 2)]! ^= 255;
  await writeFile(file, bytes);
  await page.goto(app.address);
  await page.getByLabel("Choose a package").setInputFiles(file);
  await expect(page.getByRole("alert")).toContainText(/does not have its sum|cannot be read/);
  await page.getByRole("button", { name: "Close" }).click();
});

test("history: every revision is there, going back is an edit that can be undone", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/dress`);
  await rename(page, "A first name");
  await allSaved(page);
  await rename(page, "A second name");
  await allSaved(page);
  await showMenu(page, /History/);
  const rows = page.getByTestId("revision");
  await expect(rows.first()).toContainText("Named “A second name”");
  await expect(rows.first()).toContainText("now");
  await rows.filter({ hasText: "Named “A first name”" }).getByRole("button", { name: "Go back to this" }).click();
  await expect.poll(titleOf).toBe("A first name");
  await page.keyboard.press("Control+z");
  await expect.poll(titleOf).toBe("A second name");
  await rename(page, MAIN);
  await allSaved(page);
});

test("two windows: what one saves the other shows at once; different edits become one; of the same thing the person chooses", async ({
  page,
  context,
}) => {
  await page.goto(`${app.address}/shows/${showId}/score`);
  const other = await context.newPage();
  await other.goto(`${app.address}/shows/${showId}/dress`);
  await other.getByRole("radio", { name: "Change" }).click();
  await other.getByRole("radio", { name: "Cut" }).click();
  await expect(page.getByRole("link", { name: "Dress cuts" })).toBeVisible();
  const followed = async (name: string): Promise<number> => {
    await rename(other, name);
    await expect.poll(titleOf).toBe(name);
    const since = Date.now();
    await expect(page.getByRole("textbox", { name: "Name of the show" })).toHaveValue(name);
    return Date.now() - since;
  };
  // The first may wait for the machine; of three, one shows what the way itself takes.
  const waits = [await followed("One"), await followed("Two"), await followed("Three")];
  expect(Math.min(...waits)).toBeLessThan(1000);

  // This window hears nothing for a while, and changes something else: both are in what it saves.
  await page.route("**/api/events", (route) => route.abort());
  await page.route(`**/api/shows/${showId}`, (route) =>
    route.request().method() === "GET" ? route.abort() : route.continue(),
  );
  await other.getByRole("radio", { name: "Dissolve" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document.style.transition.kind).toBe("dissolve");
  await page.getByLabel("Pace of the show", { exact: true }).selectOption({ label: "bars" });
  await page.unroute(`**/api/shows/${showId}`);
  await expect.poll(async () => (await savedShow(app, showId)).document.pace.kind).toBe("bars");
  expect((await savedShow(app, showId)).document.style.transition.kind).toBe("dissolve");
  await allSaved(page);
  // An undo here takes back what was done here, and nothing of the other window.
  await page.getByRole("button", { name: "Undo (Ctrl+Z)" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document.pace.kind).toBe("auto");
  expect((await savedShow(app, showId)).document.style.transition.kind).toBe("dissolve");
  await allSaved(page);
  await allSaved(other);

  // Both rename it: each version is shown, and the person chooses.
  await page.route(`**/api/shows/${showId}`, (route) => route.abort());
  await rename(other, "By the other window");
  await expect.poll(titleOf).toBe("By the other window");
  await rename(page, "By this window");
  await expect(page.getByText(/Kept in this browser/)).toBeVisible();
  await page.unroute(`**/api/shows/${showId}`);
  await page.getByRole("button", { name: "Choose …" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Name of the show");
  await expect(dialog.getByRole("radio", { name: "This window: By this window" })).toBeChecked();
  await dialog.getByRole("radio", { name: "The other: By the other window" }).click();
  expect(await titleOf()).toBe("By the other window");
  await dialog.getByRole("button", { name: "Save this choice" }).click();
  await expect(page.getByRole("textbox", { name: "Name of the show" })).toHaveValue("By the other window");
  await allSaved(page);
  await other.close();
  await page.unroute("**/api/events");
  await rename(page, MAIN);
  await allSaved(page);
});

test("edits made while the server is away are kept, also through a closed window, and sent when it is back", async ({
  page,
  context,
}) => {
  await page.goto(`${app.address}/shows/${showId}/dress`);
  await allSaved(page);
  await app.kill();
  await rename(page, "Kept by the browser");
  await expect(page.getByText(/Kept in this browser, sent when the server is back/)).toBeVisible();
  await page.close();
  await app.restart();
  expect(await titleOf()).toBe(MAIN);
  const again = await context.newPage();
  await again.goto(`${app.address}/shows/${showId}/dress`);
  await expect.poll(titleOf).toBe("Kept by the browser");

  // Kept on an older revision, and changed elsewhere: both are offered, nothing is overwritten.
  await allSaved(again);
  await app.kill();
  await rename(again, "Kept again");
  await expect(again.getByText(/Kept in this browser/)).toBeVisible();
  await again.close();
  await app.restart();
  const { revision, document } = await savedShow(app, showId);
  await fetch(`${app.address}/api/shows/${showId}`, {
    method: "PUT",
    headers: { "Content-Type": "application/json", "If-Match": `"${revision}"` },
    body: JSON.stringify({ ...document, title: "From elsewhere" }),
  });
  const third = await context.newPage();
  await third.goto(`${app.address}/shows/${showId}/dress`);
  await expect(third.getByText(/Changed in two windows/)).toBeVisible();
  await expect(third.getByRole("textbox", { name: "Name of the show" })).toHaveValue("Kept again");
  expect(await titleOf()).toBe("From elsewhere");
  await third.getByRole("button", { name: "Choose …" }).click();
  await third.getByRole("button", { name: "Save this choice" }).click();
  await expect.poll(titleOf).toBe("Kept again");
});

test("the server killed again and again while someone works: the page loses nothing and sees no second window that is not there", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await page.goto(`${app.address}/shows/${showId}/gather`);
  await page.getByTestId("picture").first().click();
  let edits = 0;
  let working = true;
  const work = (async () => {
    while (working) {
      await page.keyboard.press("h");
      edits++;
      await page.waitForTimeout(60);
    }
  })();
  for (let round = 0; round < 3; round++) {
    // Moments spread over the page's own rhythm of saving.
    await page.waitForTimeout(900 + round * 370);
    await app.kill();
    await page.waitForTimeout(700);
    await app.restart();
    await expect(page.getByText(/Changed in another window too/)).toHaveCount(0);
  }
  working = false;
  await work;
  await expect(page.getByTestId("save-status")).toHaveText("Saved", { timeout: 20_000 });
  const { document } = await savedShow(app, showId);
  expect(itemAt(document.slides, 0).hero).toBe(edits % 2 === 1);
});
