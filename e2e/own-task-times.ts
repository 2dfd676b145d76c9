import type { Page } from "@playwright/test";

interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  readonly pid: number;
  readonly tid: number;
  /** Microseconds of the processor. */
  readonly tdur?: number;
  readonly args?: { readonly name?: string };
}

/**
 * Notes how much processor time each task of the page's main thread takes, in milliseconds: unlike
 * its length, it does not grow where other programs hold the processors. `stop` gives them.
 */
export async function ownTaskTimes(page: Page): Promise<{ stop: () => Promise<number[]> }> {
  const session = await page.context().newCDPSession(page);
  const timesOf = new Map<string, number[]>();
  const mainThreads = new Set<string>();
  session.on("Tracing.dataCollected", ({ value }: { value: object[] }) => {
    for (const event of value as TraceEvent[]) {
      const thread = `${event.pid} ${event.tid}`;
      if (event.name === "thread_name" && event.args?.name === "CrRendererMain") mainThreads.add(thread);
      if (event.name !== "RunTask" || event.ph !== "X" || event.tdur === undefined) continue;
      const times = timesOf.get(thread) ?? [];
      timesOf.set(thread, times);
      times.push(event.tdur / 1000);
    }
  });
  await session.send("Tracing.start", {
    transferMode: "ReportEvents",
    traceConfig: { recordMode: "recordContinuously", includedCategories: ["disabled-by-default-devtools.timeline"] },
  });
  return {
    async stop() {
      const complete = new Promise<void>((resolve) => session.once("Tracing.tracingComplete", () => resolve()));
      await session.send("Tracing.end");
      await complete;
      return [...mainThreads].flatMap((thread) => timesOf.get(thread) ?? []);
    },
  };
}
