import type { Page } from "@playwright/test";

/** How many frames a second the page drew while something was done; of 60 at most here. */
export async function drawnFramesPerSecond(page: Page, work: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const drawn = { from: performance.now(), frames: 0, going: true };
    Object.assign(window, { drawn });
    // No function with a name in here: what names it is not there in the page.
    const next: FrameRequestCallback[] = [
      () => {
        drawn.frames++;
        if (drawn.going && next[0]) requestAnimationFrame(next[0]);
      },
    ];
    if (next[0]) requestAnimationFrame(next[0]);
  });
  await work();
  return page.evaluate(() => {
    const { drawn } = window as unknown as { drawn: { from: number; frames: number; going: boolean } };
    drawn.going = false;
    return (1000 * drawn.frames) / (performance.now() - drawn.from);
  });
}
