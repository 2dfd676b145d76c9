import { itemAt } from "@humming-tide/core/presence";
import { expect, type Page, test } from "@playwright/test";
import { copyDemo, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/**
 * Far beyond what a save takes; with a stream of events in each tab the later ones were never
 * saved.
 */
const SAVED_WITHIN_MS = 10_000;
/** More than the six connections that a browser has to a host; twelve in `npm run test:long`. */
const TABS = process.env["HUMMING_TIDE_LONG"] ? 12 : 8;
const SCREENS = ["gather", "listen", "score", "dress", "hand-over?part=films", "hand-over?part=publish"];

let app: RunningApp;
test.beforeAll(async () => {
  app = await startApp(copyDemo);
});
test.afterAll(() => app.close());

test(`${TABS} tabs of one browser save, with one stream of events for all of them; when its tab goes, another has it`, async ({
  context,
}) => {
  const shows = await showsOf(app);
  const streams = new Set<Page>();
  const tabs: { readonly page: Page; readonly showId: string }[] = [];
  for (let i = 0; i < TABS; i++) {
    const page = await context.newPage();
    page.on("request", (request) => request.url().endsWith("/api/events") && streams.add(page));
    const showId = itemAt(shows, Math.floor(i / SCREENS.length)).id;
    await page.goto(`${app.address}/shows/${showId}/${itemAt(SCREENS, i % SCREENS.length)}`);
    await expect(page.getByTestId("save-status")).toHaveText("Saved");
    tabs.push({ page, showId });
  }
  const saveIn = async ({ page, showId }: (typeof tabs)[number], title: string): Promise<number> => {
    const since = Date.now();
    await page.getByRole("textbox", { name: "Name of the show" }).fill(title);
    await page.keyboard.press("Enter");
    await expect
      .poll(async () => (await savedShow(app, showId)).document.title, { timeout: SAVED_WITHIN_MS, intervals: [50] })
      .toBe(title);
    return Date.now() - since;
  };
  const waits: number[] = [];
  for (const [index, tab] of tabs.entries()) {
    // What the tab before has saved is here: two names at the same time would be for the person to
    // choose.
    const isFirst = index % SCREENS.length === 0;
    if (!isFirst)
      await expect(tab.page.getByRole("textbox", { name: "Name of the show" })).toHaveValue(`Tab ${index - 1}`);
    waits.push(await saveIn(tab, `Tab ${index}`));
  }
  console.log(`Saved after ${waits.join(", ")} ms.`);
  expect(streams.size).toBe(1);
  // Every tab of a show has what its last tab saved.
  for (const [index, { page }] of tabs.entries())
    await expect(page.getByRole("textbox", { name: "Name of the show" })).toHaveValue(
      `Tab ${index < SCREENS.length ? SCREENS.length - 1 : TABS - 1}`,
    );

  await itemAt(tabs, 0).page.close();
  await expect.poll(() => streams.size).toBe(2);
  await saveIn(itemAt(tabs, 1), "Without the first");
  await expect(itemAt(tabs, 2).page.getByRole("textbox", { name: "Name of the show" })).toHaveValue(
    "Without the first",
  );
});
