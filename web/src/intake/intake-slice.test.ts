import { present } from "@humming-tide/core/presence";
import { describe, expect, it } from "vitest";
import { type IntakeItem, intakeActions, intakeReducer, summaryOf } from "./intake-slice.ts";

const row = (id: string, more: Partial<IntakeItem> = {}): IntakeItem => ({
  id,
  path: `${id}.jpg`,
  bytes: 1_000_000,
  state: "waiting",
  sent: 0,
  message: null,
  ...more,
});
const run = (...actions: Parameters<typeof intakeReducer>[1][]) => present(actions.reduce(intakeReducer, undefined));
const phase = (to: "running" | "stopped" | "idle", now: number) => intakeActions.phaseChanged({ phase: to, now });

describe("bringing in, in numbers", () => {
  it("tells the time left from what was done while it ran, not while it was stopped", () => {
    const ten = Array.from({ length: 10 }, (_, i) => row(`${i}`));
    const half = ten.slice(0, 5).map(({ id }) => ({ id, state: "in" as const }));
    let state = run(intakeActions.filesGiven(ten), phase("running", 1000), intakeActions.rowsChanged(half));
    expect(summaryOf(state, 11_000)).toMatchObject({ total: 10, in: 5, waiting: 5, share: 0.5, secondsLeft: 10 });
    expect(summaryOf(state, 1500).secondsLeft).toBeNull();
    state = intakeReducer(state, phase("stopped", 11_000));
    expect(summaryOf(state, 60_000).secondsLeft).toBeNull();
    state = intakeReducer(state, phase("running", 100_000));
    expect(summaryOf(state, 100_000).secondsLeft).toBe(10);
  });

  it("does not take files that needed no sending for speed", () => {
    const files = [
      ...Array.from({ length: 90 }, (_, i) => row(`there ${i}`, { state: "already-there" })),
      row("a"),
      row("b"),
    ];
    const state = run(
      intakeActions.filesGiven(files),
      phase("running", 0),
      intakeActions.rowsChanged([{ id: "a", state: "in" }]),
    );
    expect(summaryOf(state, 4000)).toMatchObject({ alreadyThere: 90, in: 1, secondsLeft: 4 });
  });

  it("knows a file that is given twice as one", () => {
    const state = run(
      intakeActions.filesGiven([row("a")]),
      intakeActions.filesGiven([row("a", { state: "in" }), row("b")]),
    );
    expect(state.order).toEqual(["a", "b"]);
    expect(summaryOf(state, 0)).toMatchObject({ total: 2, in: 1 });
  });
});
