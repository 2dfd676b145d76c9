import { describe, expect, it } from "vitest";
import { type Captured, commonSeconds, eventZone } from "./index.ts";

const file = (capturedAt: string | null, more: Partial<Captured> = {}): Captured => ({
  ...{ capturedAt, camera: "", isUniversal: false, zoneMinutes: null },
  ...more,
});
const clip = (capturedAt: string | null): Captured => file(capturedAt, { isUniversal: true });
/** A computer two hours ahead, as central Europe is in summer. */
const own = (): number => 120;

describe("the zone of an event", () => {
  it("is what most of its files say", () => {
    const files = [-300, -300, 60].map((zoneMinutes) => file("2031-06-21T19:00:00", { zoneMinutes }));
    expect(eventZone([...files, clip("2031-06-22T00:10:00")], own)).toBe(-300);
  });

  it("is that of the computer where no file says it, at the time of the first clip", () => {
    const asked: number[] = [];
    const zone = eventZone([clip("2031-06-21T17:05:00"), clip("2031-12-21T17:05:00")], (at) => {
      asked.push(at);
      return 120;
    });
    expect(zone).toBe(120);
    expect(asked).toEqual([Date.UTC(2031, 5, 21, 17, 5)]);
  });

  it("is none where clips lie among the pictures as they are, and would not by it", () => {
    const pictures = ["19:00", "19:30"].map((at) => file(`2031-06-21T${at}:00`));
    const wrong = [clip("2031-06-21T19:10:00"), clip("2031-06-21T19:50:00")];
    expect(eventZone([...pictures, ...wrong], own)).toBe(0);
    const right = wrong.map(({ capturedAt }) => clip((capturedAt ?? "").replace("T19", "T17")));
    expect(eventZone([...pictures, ...right], own)).toBe(120);
    // Half an hour before the first and behind the last picture still counts.
    expect(eventZone([...pictures, clip("2031-06-21T18:29:00")], own)).toBe(120);
    expect(eventZone([...pictures, clip("2031-06-21T18:30:00")], own)).toBe(0);
  });

  it("is not asked for without a universal time, and broken times are none", () => {
    expect(
      eventZone([file("2031-06-21T19:00:00", { zoneMinutes: 60 }), clip(null), clip("2031-13-40T99:00:00")], own),
    ).toBe(0);
  });
});

describe("a clip's time", () => {
  it("stands where its moment was among the pictures: an hour ahead is the same instant", () => {
    const wall = commonSeconds(file("2031-06-21T21:04:11"), {}, 120);
    expect(commonSeconds(clip("2031-06-21T19:04:11"), {}, 120)).toBe(wall);
    // What a person said of a camera's clock counts behind it.
    const late = { ...clip("2031-06-21T19:04:11"), camera: "Quay One" };
    expect(commonSeconds(late, { "Quay One": -60 }, 120)).toBe((wall ?? 0) - 60);
  });
});
