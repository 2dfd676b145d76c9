import type { ExportJob } from "@humming-tide/contract";

/** What runs, then what waits in the order of the queue, then what has ended, the newest first. */
export function inWorkingOrder(jobs: readonly ExportJob[]): ExportJob[] {
  const rank = ({ state }: ExportJob): number => (state === "running" ? 0 : state === "queued" ? 1 : 2);
  return jobs.toSorted((a, b) => {
    if (rank(a) !== rank(b)) return rank(a) - rank(b);
    if (a.state === "queued") return a.position - b.position || a.createdAt.localeCompare(b.createdAt);
    return b.createdAt.localeCompare(a.createdAt);
  });
}
