import { expect, type Page } from "@playwright/test";

/** Waits until the server has every edit of the open show; what it prepares meanwhile may go on. */
export const allSaved = (page: Page): Promise<void> => expect(page.getByTestId("save-status")).toHaveText(/^Saved\b/);

/**
 * For tests that share a show: the browser of a test keeps nothing. A page that closes a moment
 * after an edit would leave the next test with half of it.
 */
export async function leaveSaved({ page }: { page: Page }): Promise<void> {
  if (page.isClosed()) return;
  if ((await page.getByTestId("save-status").count()) > 0) await allSaved(page);
}
