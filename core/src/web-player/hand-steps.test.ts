import { expect, it } from "vitest";
import type { PictureSlot } from "../picture/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import { seededRandom } from "../testing/index.ts";
import { handSteps, stepAt } from "./index.ts";

const slot = (startFrame: number, endFrame: number, from: number, to: number): PictureSlot =>
  ({ startFrame, endFrame, transitionIn: { kind: "dissolve", startFrame: from, endFrame: to } }) as PictureSlot;

it("rests on the last frame before the next slide begins to come, and before the film sinks to black", () => {
  const slots = [slot(0, 50, 0, 0), slot(50, 100, 45, 56), slot(100, 180, 100, 100)];
  const steps = handSteps({ slots, fadeOut: { startFrame: 160, endFrame: 180 } });
  expect(steps.map(({ startFrame, restFrame }) => [startFrame, restFrame])).toEqual([
    [0, 44],
    [45, 99],
    [100, 159],
  ]);
  expect([0, 44, 45, 100, 179].map((frame) => stepAt(steps, frame))).toEqual([0, 0, 1, 2, 2]);
});

it("waits on its landing where the next slide comes while this one still arrives", () => {
  // Nothing but dissolves: the second begins to go at 60, when it has just arrived.
  const slots = [slot(0, 30, 0, 0), slot(30, 60, 15, 45), slot(60, 90, 29, 91)];
  expect(handSteps({ slots, fadeOut: null }).map(({ restFrame }) => restFrame)).toEqual([14, 30, 89]);
});

it("leaves no frame between two steps and shows every slide, whatever the film", () => {
  const random = seededRandom(8);
  const upTo = (most: number): number => Math.floor(random() * (most + 1));
  for (let film = 0; film < 200; film++) {
    let at = 0;
    const slots = Array.from({ length: 1 + upTo(9) }, (_, index) => {
      const start = at;
      at += 2 + upTo(40);
      const half = index === 0 ? 0 : Math.min(upTo(20), start);
      return slot(start, at, start - half, start + half + 1);
    });
    const fade = upTo(1) ? { startFrame: Math.max(lastOf(slots).startFrame + 1, at - 25), endFrame: at } : null;
    const steps = handSteps({ slots, fadeOut: fade });
    expect(steps).toHaveLength(slots.length);
    for (const [index, { startFrame, restFrame }] of steps.entries()) {
      expect(startFrame).toBe(index === 0 ? 0 : itemAt(steps, index - 1).restFrame + 1);
      expect(restFrame).toBeGreaterThanOrEqual(Math.max(startFrame, itemAt(slots, index).startFrame));
      expect(restFrame).toBeLessThan(itemAt(slots, index).endFrame + 20);
    }
  }
});
