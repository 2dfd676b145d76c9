import type { JobStatus } from "@humming-tide/contract";
import { valueFor } from "@humming-tide/core/presence";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { serviceError } from "../services/service-errors.ts";
import { type JobContext, JobRunner } from "./job-runner.ts";
import { MemoryJobs } from "./memory-jobs.ts";

interface Job extends JobStatus {
  readonly id: string;
}

let jobs: MemoryJobs;
let told: string[];
let runner: JobRunner<Job>;
/** Ends the work of a job, by id. */
let ends: Map<string, (error?: Error) => void>;
let contexts: Map<string, JobContext>;

beforeEach(() => {
  jobs = new MemoryJobs();
  told = [];
  ends = new Map();
  contexts = new Map();
  runner = newRunner();
});
afterEach(() => runner.close());

const newRunner = (limit = 1): JobRunner<Job> =>
  new JobRunner<Job>({
    keeper: jobs,
    noun: "job",
    limit,
    load: (id) => ({ id, ...jobs.status(id) }),
    firstStep: "Beginning",
    work: ({ id }, context) =>
      new Promise((resolve, reject) => {
        contexts.set(id, context);
        ends.set(id, (error) => (error ? reject(error) : resolve("Done")));
        context.signal.addEventListener("abort", () => reject(context.signal.reason as Error));
      }),
    abandonedError: "gave up",
    failed: (error) => ({ state: "failed", step: "Failed", error: (error as Error).message }),
    cancelledStep: "Stopped",
    onChange: ({ id, state, step }) => told.push(`${id} ${state} ${step}`),
  });

const begun = (id: string): Promise<void> => vi.waitFor(() => expect(ends.has(id)).toBe(true));
const ended = (id: string): Promise<void> =>
  vi.waitFor(() => expect(["queued", "running"]).not.toContain(jobs.status(id).state));

it("runs one after the other, and tells each step", async () => {
  for (const id of ["a", "b"]) jobs.add(id);
  runner.look();
  await begun("a");
  expect(ends.has("b")).toBe(false);
  valueFor(contexts, "a").tell("Drawing", 0.5);
  expect(runner.running("a")).toMatchObject({ step: "Drawing", progress: 0.5, state: "running" });
  valueFor(ends, "a")();
  await begun("b");
  valueFor(ends, "b")(new Error("no room"));
  await ended("b");
  expect(told).toEqual([
    ...["a running Beginning", "a running Drawing", "a done Done"],
    ...["b running Beginning", "b failed Failed"],
  ]);
  expect(jobs.status("b").error).toBe("no room");
  expect(runner.running("a")).toBeNull();
});

it("runs as many at a time as it may", async () => {
  await runner.close();
  runner = newRunner(2);
  for (const id of ["a", "b", "c"]) jobs.add(id);
  runner.look();
  await begun("b");
  expect([...ends.keys()]).toEqual(["a", "b"]);
  valueFor(ends, "b")();
  await begun("c");
});

it("cancels what runs and what waits, and says so once", async () => {
  for (const id of ["a", "b"]) jobs.add(id);
  runner.look();
  await begun("a");
  await runner.cancel("b");
  await runner.cancel("a");
  await runner.ended("a");
  expect([jobs.status("a"), jobs.status("b")]).toMatchObject([
    { state: "cancelled", step: "Stopped", error: null },
    { state: "cancelled", step: "Stopped", error: null },
  ]);
  expect(told.filter((line) => line.includes("cancelled"))).toHaveLength(2);
});

it("gives back what runs when it closes, and the next one takes it up", async () => {
  jobs.add("a");
  runner.look();
  await begun("a");
  await runner.close();
  expect(jobs.status("a")).toMatchObject({ state: "queued", tries: 0 });
  ends.clear();
  runner = newRunner();
  await runner.start();
  await begun("a");
});

it("goes on with what failed when it is told to", async () => {
  jobs.add("a");
  runner.look();
  await begun("a");
  valueFor(ends, "a")(serviceError("burn-failed", { why: "The disc is spoilt." }));
  await ended("a");
  ends.clear();
  await runner.resume("a");
  await begun("a");
  expect(jobs.status("a")).toMatchObject({ state: "running", tries: 1, error: null });
});

/** A runner whose time is turned by hand, with one job that has begun. */
async function withTurnedTime(test: () => Promise<void>): Promise<void> {
  vi.useFakeTimers();
  try {
    await runner.close();
    runner = newRunner();
    jobs.add("a");
    runner.look();
    await begun("a");
    await test();
  } finally {
    vi.useRealTimers();
  }
}

it("begins a job again whose end could not be written down", () =>
  withTurnedTime(async () => {
    const silence = vi.spyOn(console, "error").mockImplementation(() => undefined);
    // As on a full disk.
    vi.spyOn(jobs, "end").mockImplementationOnce(() => {
      throw new Error("no space left on device");
    });
    valueFor(ends, "a")();
    ends.clear();
    await vi.advanceTimersByTimeAsync(50_000);
    expect(jobs.status("a")).toMatchObject({ state: "running", tries: 2 });
    valueFor(ends, "a")();
    await vi.advanceTimersByTimeAsync(1000);
    expect(jobs.status("a")).toMatchObject({ state: "done" });
    silence.mockRestore();
  }));

it("keeps its lease while it works", () =>
  withTurnedTime(async () => {
    await vi.advanceTimersByTimeAsync(120_000);
    expect(jobs.requeueAbandoned(Date.now(), "gave up")).toEqual([]);
  }));
