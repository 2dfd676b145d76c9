import { Worker } from "node:worker_threads";
import { describe, expect, it } from "vitest";
import { longestHold } from "./longest-hold.ts";

const later = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** The same work each time, however much time the machine has for it. */
function work(): number {
  let sum = 0;
  for (let i = 0; i < 40_000_000; i++) sum += Math.sqrt(i);
  return sum;
}

describe("the longest hold of a thread", () => {
  it("is the longest of several pieces of work, not their sum", async () => {
    const one = await longestHold(() => Promise.resolve(work()));
    const six = await longestHold(async () => {
      for (let i = 0; i < 6; i++) {
        work();
        await later(20);
      }
    });
    expect(six.holdMs).toBeGreaterThan(one.holdMs / 3);
    expect(six.holdMs).toBeLessThan(one.holdMs * 3);
  });

  it("does not count what other threads work, nor waiting", async () => {
    const worker = new Worker("const end = Date.now() + 400; while (Date.now() < end);", { eval: true });
    const ended = new Promise((resolve) => worker.once("exit", resolve));
    const { holdMs } = await longestHold(async () => {
      await later(300);
      await ended;
    });
    expect(holdMs).toBeLessThan(300);
  });
});
