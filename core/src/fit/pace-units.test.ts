import { describe, expect, it } from "vitest";
import { fitMusic } from "../testing/index.ts";
import { paceInUnit, paceUnits } from "./index.ts";

/** 4/4 at 120 beats a minute, phrases of eight bars. */
const units = paceUnits({ ...fitMusic(320), phrases: [0.2, 16.2, 32.2, 48.2] });

describe("a pace in another unit", () => {
  it("knows how long units are", () => {
    expect(units).toEqual({ beatSeconds: expect.closeTo(0.5, 9) as number, beatsPerBar: 4, barsPerPhrase: 8 });
  });

  it.each([
    [{ kind: "beats", count: 8 }, "bars", { kind: "bars", count: 2 }],
    [{ kind: "bars", count: 2 }, "beats", { kind: "beats", count: 8 }],
    [{ kind: "bars", count: 2 }, "seconds", { kind: "seconds", seconds: 4 }],
    [{ kind: "seconds", seconds: 5 }, "beats", { kind: "beats", count: 10 }],
    [{ kind: "bars", count: 16 }, "phrases", { kind: "phrases", count: 2 }],
    [{ kind: "phrases", count: 1 }, "beats", { kind: "beats", count: 32 }],
    [{ kind: "beats", count: 1 }, "phrases", { kind: "phrases", count: 1 }],
    [{ kind: "beats", count: 1000 }, "beats", { kind: "beats", count: 1000 }],
    [{ kind: "auto" }, "beats", { kind: "beats", count: 4 }],
    [null, "seconds", { kind: "seconds", seconds: 4 }],
  ] as const)("%o in %s", (pace, kind, wanted) => {
    expect(paceInUnit(pace, kind, units)).toEqual(wanted);
  });
});
