import type { Page } from "@playwright/test";

/**
 * Notes every task of the page's main thread that takes more than 50 ms; to be called before the
 * page is opened.
 */
export async function watchLongTasks(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const seen: number[] = [];
    Object.assign(window, { longTasks: seen });
    // No function with a name in here: what names it is not there in the page.
    new PerformanceObserver((list) =>
      seen.push(...list.getEntries().map(({ duration }) => Math.round(duration))),
    ).observe({ entryTypes: ["longtask"] });
  });
}

/** Does something, prints the long tasks that came of it, and gives them back. */
export async function measureLongTasks(page: Page, what: string, work: () => Promise<void>): Promise<number[]> {
  await work();
  await page.waitForTimeout(300);
  return reportLongTasks(page, what);
}

/** The long tasks since the last report. */
export async function reportLongTasks(page: Page, what: string): Promise<number[]> {
  const tasks = await page.evaluate(() => (window as unknown as { longTasks: number[] }).longTasks.splice(0));
  console.log(`  ${what}: ${tasks.length === 0 ? "none" : tasks.join(", ")}`);
  return tasks;
}

/**
 * Throws where a task that is surely too long goes unseen: a watch that sees nothing proves
 * nothing.
 */
export async function provesItsWatch(page: Page): Promise<void> {
  await page.evaluate(() => {
    setTimeout(() => {
      for (const from = performance.now(); performance.now() - from < 120; );
    });
  });
  await page.waitForTimeout(500);
  if ((await reportLongTasks(page, "a task of 120 ms, made to prove the watch")).length === 0)
    throw new Error("A task of 120 ms was not seen: the figures of this run mean nothing.");
}
