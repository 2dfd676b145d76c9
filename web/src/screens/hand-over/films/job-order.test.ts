import type { ExportJob } from "@humming-tide/contract";
import { expect, it } from "vitest";
import { inWorkingOrder } from "./job-order.ts";

const job = (id: string, state: ExportJob["state"], minute: number, position = 0): ExportJob =>
  ({ id, state, position, createdAt: `2026-07-01T10:0${minute}:00.000Z` }) as ExportJob;

it("films stand as they are worked on: running, waiting in their queue, then the newest that ended", () => {
  const jobs = [
    ...[job("old", "done", 0), job("newest", "failed", 2), job("middle", "cancelled", 1)],
    ...[job("first", "queued", 3), job("second", "queued", 4), job("moved", "queued", 5, -1)],
    job("now", "running", 6),
  ];
  expect(inWorkingOrder(jobs).map(({ id }) => id)).toEqual([
    ...["now", "moved", "first", "second", "newest", "middle", "old"],
  ]);
});
