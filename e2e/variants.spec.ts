import { itemAt, present } from "@humming-tide/core/presence";
import { changeSlides } from "@humming-tide/core/show";
import { expect, test } from "@playwright/test";
import { leaveSaved } from "./all-saved.ts";
import { copyDemo, editShow, type RunningApp, savedShow, showsOf, startApp } from "./running-app.ts";

/** Films kept as variants, compared and taken; what came of it is read from the server. */

let app: RunningApp;
let showId: string;

test.beforeAll(async () => {
  test.setTimeout(180_000);
  app = await startApp(copyDemo);
  showId = itemAt(await showsOf(app), 0).id;
});
test.afterEach(leaveSaved);
test.afterAll(() => app.close());

test("a film is kept, compared with another beside it, and taken again; nothing of the other is lost", async ({
  page,
}) => {
  const kept = (await savedShow(app, showId)).document;
  await page.goto(`${app.address}/shows/${showId}/score`);
  await page.getByRole("button", { name: "Variants" }).click();
  await page.getByLabel("Keep the film as it is now, under a name").fill("Calm");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("textbox", { name: "Name of the variant Calm" })).toHaveValue("Calm");
  await page.getByRole("button", { name: "Close" }).click();

  const left = itemAt(kept.slides, 20);
  await editShow(app, showId, (show) => ({
    ...changeSlides(show, new Set([left.id]), { rating: "out" }),
    pace: { kind: "bars", count: 1 },
  }));
  const changed = (await savedShow(app, showId)).document;
  await page.getByRole("button", { name: "Variants" }).click();
  await page.getByRole("button", { name: "Compare" }).click();
  const columns = page.getByTestId("film-column");
  await expect(columns).toHaveCount(2, { timeout: 30_000 });
  await expect(page.getByRole("region", { name: "As it is now" }).getByText("on the stage")).toBeVisible();
  await expect(page.getByText("pace changed")).toBeVisible();
  const calm = page.getByRole("region", { name: "Calm" });
  await expect(calm.getByRole("button", { name: new RegExp(`only in this film: ${left.fileName}`) })).toHaveCount(1);
  const onlyThere = calm.getByTitle(/only in this film/);
  await expect(page.getByRole("region", { name: "As it is now" }).getByRole("button", { name: /only in/ })).toHaveCount(
    0,
  );

  // A slot of the other film brings it on the stage, there; the choice keeps the place.
  await onlyThere.first().click();
  await expect(calm.getByText("on the stage")).toBeVisible();
  await expect(page.getByRole("radio", { name: "Calm" })).toBeChecked();
  const place = present(await page.getByTestId("timecode").textContent());
  expect(place).not.toBe("00:00:00:00");
  await page.getByRole("radio", { name: "As it is now" }).click();
  await expect(page.getByRole("region", { name: "As it is now" }).getByText("on the stage")).toBeVisible();
  await expect(page.getByTestId("timecode")).toHaveText(place);
  // Nothing was edited by looking.
  expect((await savedShow(app, showId)).document).toEqual(changed);

  // Played from the same place: the music goes on while the other film comes on the stage.
  await page.getByRole("button", { name: "Play", exact: true }).click();
  await page.getByRole("radio", { name: "Calm" }).click();
  await expect(calm.getByText("on the stage")).toBeVisible();
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeVisible();
  await expect(page.getByTestId("timecode")).not.toHaveText(place);
  await page.getByRole("button", { name: "Stop", exact: true }).click();

  await page.getByRole("button", { name: "Take “Calm”" }).click();
  await expect(page.getByText("The film is “Calm” now")).toBeVisible();
  await expect.poll(async () => (await savedShow(app, showId)).document).toEqual(kept);
  await page.getByRole("button", { name: "Variants" }).click();
  await expect(page.getByRole("textbox", { name: "Name of the variant Before “Calm”" })).toBeVisible();
  await page.getByRole("button", { name: "Compare" }).first().click();
  await expect(columns).toHaveCount(2, { timeout: 30_000 });
  await page.getByRole("button", { name: "Take “Before “Calm””" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document).toEqual(changed);
  await page.getByRole("button", { name: "Undo (Ctrl+Z)" }).click();
  await expect.poll(async () => (await savedShow(app, showId)).document).toEqual(kept);
});

test("a film that could not be saved is neither kept nor replaced, and that is said", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/score`);
  const before = await savedShow(app, showId);
  await page.route(/\/api\/shows\/[^/]+$/, (route) =>
    route.request().method() === "PATCH" ? route.abort() : route.continue(),
  );
  await page.getByRole("textbox", { name: "Name of the show" }).fill("Not saved");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Variants" }).click();
  await page.getByLabel("Keep the film as it is now, under a name").fill("Lost?");
  await page.keyboard.press("Enter");
  await expect(page.getByText("The show is not saved yet, so nothing was done.")).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Name of the variant Lost?" })).toHaveCount(0);
  await page.getByRole("button", { name: "Close" }).click();
  await page.unroute(/\/api\/shows\/[^/]+$/);
  await page.keyboard.press("Control+z");
  await leaveSaved({ page });
  expect((await savedShow(app, showId)).document).toEqual(before.document);
});

test("a variant is renamed and removed by keyboard, and one that is gone is said", async ({ page }) => {
  await page.goto(`${app.address}/shows/${showId}/compare/not-there`);
  await expect(page.getByText("This variant is not there any more.")).toBeVisible();
  await page.getByRole("link", { name: "To the Score" }).click();
  await page.getByRole("button", { name: "Variants" }).click();
  await page.getByLabel("Keep the film as it is now, under a name").fill("First");
  await page.keyboard.press("Enter");
  const name = page.getByRole("textbox", { name: "Name of the variant First" });
  await name.fill("Second");
  await name.press("Enter");
  const renamed = page.getByRole("listitem").filter({ has: page.locator("input[value='Second']") });
  await expect(renamed).toHaveCount(1);
  await renamed.getByRole("button", { name: "Remove" }).press("Enter");
  await expect(renamed).toHaveCount(0);
});
