import { beforeEach, describe, expect, it, vi } from "vitest";

const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
  removeItem: (key: string) => kept.delete(key),
});

const { store } = await import("../store/store.ts");
const { intakeActions } = await import("./intake-slice.ts");
const { keepQuestions } = await import("./kept-questions.ts");

const sound = {
  id: "a",
  sha256: "ab".repeat(32),
  fileName: "toast.m4a",
  durationSeconds: 61,
  kind: "unclear",
} as const;

/** Leaves the show as a reload does: nothing of the page stays. */
function leave(stop: () => void): void {
  stop();
  store.dispatch(intakeActions.left());
}

describe("what a person was asked about files that came in", () => {
  beforeEach(() => kept.clear());

  it("is asked again after a reload, in the same show only, until it is answered", () => {
    const stop = keepQuestions("one");
    store.dispatch(intakeActions.soundsAsked([sound]));
    leave(stop);
    leave(keepQuestions("other"));
    expect(store.getState().intake.sounds).toEqual([]);

    const again = keepQuestions("one");
    expect(store.getState().intake.sounds).toEqual([sound]);
    store.dispatch(intakeActions.soundDecided({ id: "a", message: null }));
    leave(again);
    const last = keepQuestions("one");
    expect(store.getState().intake.sounds).toEqual([]);
    leave(last);
    expect(kept.size).toBe(0);
  });

  it("is not asked where what was kept cannot be read", () => {
    for (const text of [
      "{",
      "[]",
      '{"sounds":[{"id":1}],"retouched":[]}',
      '{"sounds":[],"retouched":[{"kind":"boat"}]}',
    ]) {
      kept.set("humming-tide questions one", text);
      leave(keepQuestions("one"));
      expect(store.getState().intake.sounds).toEqual([]);
    }
  });
});
