import { expect, type Page } from "@playwright/test";

/** Waits until the server has every edit of the open show. */
export const allSaved = (page: Page): Promise<void> => expect(page.getByTestId("save-status")).toHaveText("Saved");

/**
 * For tests that share a show: a page that closes a moment after an edit, in a browser that keeps
 * nothing, would leave the next test with half of what this one did.
 */
export async function leaveSaved({ page }: { page: Page }): Promise<void> {
  if (page.isClosed()) return;
  if ((await page.getByTestId("save-status").count()) > 0) await allSaved(page);
}
