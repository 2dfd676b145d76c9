import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { type Light, luminanceShares, rowsToBt709 } from "./primaries.ts";
import { CODE_VALUES, CUBE_SIDE, colourTables, LIGHT_VALUES } from "./tables.ts";
import { colourSteps, needsColourChange, toBt709, type VideoColours } from "./to-bt709.ts";
import { toneCurve } from "./tone-curve.ts";
import { codeOfSrgb, lightOfSrgb, nitsOfPq, pqOfNits, sceneOfHlg } from "./transfer.ts";

const colours = (transfer: string | null, primaries: string | null, peakNits: number | null = null): VideoColours => ({
  transfer,
  primaries,
  peakNits,
});
const HLG = colours("arib-std-b67", "bt2020");
const PQ = colours("smpte2084", "bt2020");
const code = fc.double({ min: 0, max: 1, noNaN: true });

describe("light of other primaries in those of BT.709", () => {
  it("is that of the matrix which ITU-R BT.2087-0 publishes for BT.2020", () => {
    expect(rowsToBt709("bt2020").map((row) => row.map((value) => Math.round(value * 1e4) / 1e4))).toEqual([
      [1.6605, -0.5876, -0.0728],
      [-0.1246, 1.1329, -0.0083],
      [-0.0182, -0.1006, 1.1187],
    ]);
  });

  it("is that of the matrices which CSS Color Module Level 4 publishes for Display P3", () => {
    const published = [
      [1.2249401763, -0.2249401763, 0],
      [-0.0420569547, 1.0420569547, 0],
      [-0.0196375546, -0.0786360455, 1.0982736001],
    ];
    for (const [row, values] of rowsToBt709("smpte432").entries())
      for (const [column, value] of values.entries())
        expect(value).toBeCloseTo(itemAt(itemAt(published, row), column), 6);
  });

  it("has the luminance shares that the standards print", () => {
    const rounded = (shares: Light): number[] => shares.map((share) => Math.round(share * 1e4) / 1e4);
    expect(rounded(luminanceShares("bt709"))).toEqual([0.2126, 0.7152, 0.0722]);
    expect(rounded(luminanceShares("bt2020"))).toEqual([0.2627, 0.678, 0.0593]);
  });
});

describe("curves of HDR", () => {
  it("are those of ITU-R BT.2100: codes of PQ as BT.2408 tables them, HLG's two halves meet", () => {
    // BT.2408-7 table 1: 203 cd/m² are 58 % of PQ; 100, 1000 and 10,000 are 51, 75 and 100 %.
    expect([100, 203, 1000, 10_000].map((nits) => Math.round(100 * pqOfNits(nits)))).toEqual([51, 58, 75, 100]);
    fc.assert(fc.property(code, (value) => Math.abs(pqOfNits(nitsOfPq(value)) - value) < 1e-6));
    expect(sceneOfHlg(0.5)).toBeCloseTo(1 / 12, 12);
    expect(sceneOfHlg(0.5 + 1e-9)).toBeCloseTo(1 / 12, 8);
    expect(sceneOfHlg(1)).toBeCloseTo(1, 6);
    // BT.2408: reference white is 75 % of HLG, 203 cd/m² on a screen of 1000.
    expect(1000 * sceneOfHlg(0.75) ** 1.2).toBeCloseTo(203, 0);
    fc.assert(fc.property(code, (value) => Math.abs(codeOfSrgb(lightOfSrgb(value)) - value) < 1e-9));
  });

  it("bend light as ITU-R BT.2390 does: nothing below the knee, the peak to the target, never back", () => {
    const curve = toneCurve(1000, 203);
    const knee = nitsOfPq(((1.5 * pqOfNits(203)) / pqOfNits(1000)) * pqOfNits(1000) - 0.5 * pqOfNits(1000));
    expect(Math.round(knee)).toBe(88);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1200, noNaN: true }),
        fc.double({ min: 0, max: 50, noNaN: true }),
        (nits, more) => {
          if (nits < knee) expect(curve(nits)).toBe(nits);
          expect(curve(nits)).toBeLessThanOrEqual(203 + 1e-9);
          expect(curve(nits + more)).toBeGreaterThanOrEqual(curve(nits) - 1e-9);
        },
      ),
    );
    expect(curve(1000)).toBeCloseTo(203, 6);
    expect(toneCurve(150, 203)(140)).toBe(140);
  });
});

describe("a clip's codes in BT.709", () => {
  it("stay between 0 and 1, greys stay grey, and more light is never darker", () => {
    for (const one of [HLG, PQ, colours("bt709", "smpte432"), colours("bt2020-10", "bt2020")]) {
      const convert = toBt709(one);
      fc.assert(
        fc.property(code, code, code, (red, green, blue) => {
          for (const value of convert([red, green, blue])) {
            expect(value).toBeGreaterThanOrEqual(0);
            expect(value).toBeLessThanOrEqual(1);
          }
          const grey = convert([red, red, red]);
          expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(1e-6);
          const [darker, brighter] = red < green ? [red, green] : [green, red];
          expect(itemAt(convert([brighter, brighter, brighter]), 0)).toBeGreaterThanOrEqual(
            itemAt(convert([darker, darker, darker]), 0) - 1e-9,
          );
        }),
      );
    }
  });

  it("have the peak that the file says as their white", () => {
    const white = (peakNits: number | null): number => {
      const grey = pqOfNits(peakNits ?? 1000);
      return itemAt(toBt709({ ...PQ, peakNits })([grey, grey, grey]), 0);
    };
    for (const peak of [null, 400, 1000, 4000]) expect(white(peak)).toBeCloseTo(1, 6);
    const bright = toBt709({ ...PQ, peakNits: 4000 })([0.7, 0.7, 0.7]);
    expect(itemAt(bright, 0)).toBeLessThan(itemAt(toBt709(PQ)([0.7, 0.7, 0.7]), 0));
  });

  it("are left alone where the file means BT.709, or says nothing, or means BT.601", () => {
    for (const [transfer, primaries] of [
      ["bt709", "bt709"],
      [null, null],
      ["smpte170m", "smpte170m"],
      ["gamma28", "bt470bg"],
    ] as const)
      expect(needsColourChange(colours(transfer, primaries))).toBe(false);
    for (const one of [HLG, PQ, colours("arib-std-b67", null), colours("bt709", "smpte432"), colours(null, "bt2020")])
      expect(needsColourChange(one)).toBe(true);
  });

  it("change little where the clip's change little, bright yellow and deep blue too", () => {
    // The least step of 10 bits. Dark codes of PQ are the steepest: a code of 12 of 255 at most.
    for (const one of [HLG, PQ, { ...PQ, peakNits: 4000 }]) {
      const convert = toBt709(one);
      fc.assert(
        fc.property(code, code, code, fc.nat(2), (red, green, blue, channel) => {
          const from: Light = [red, green, blue];
          const to = from.map((value, c) => (c === channel ? Math.min(1, value + 1 / 1023) : value));
          const [a, b] = [convert(from), convert(to as unknown as Light)];
          for (const [c, value] of a.entries()) expect(Math.abs(value - itemAt(b, c))).toBeLessThan(16 / 255);
        }),
        { numRuns: 2000 },
      );
    }
  });

  it("are within 2 of 255 where a program goes the steps in 16 bits through tables", () => {
    // A reader of ".cube" files as such programs have it: in proportion along the cube's diagonals.
    const rowsOf = (text: string, first: string): number[][] => {
      const [size, ...rows] = text.trimEnd().split("\n");
      expect(size).toBe(first);
      return rows.map((row) => row.split(" ").map(Number));
    };
    const in16Bits = (value: number): number => Math.round(Math.max(0, Math.min(1, value)) * 65_535) / 65_535;
    for (const [one, most] of [
      [HLG, 1],
      [PQ, 1],
      [{ ...PQ, peakNits: 4000 }, 2],
      [colours("bt709", "smpte432"), 1],
      [colours("bt2020-10", "bt2020"), 1],
    ] as const) {
      const tables = colourTables(one);
      const curve = (text: string, values: number): ((value: number) => number) => {
        const rows = rowsOf(text, `LUT_1D_SIZE ${values}`);
        return (value) => {
          const below = Math.min(values - 2, Math.floor(value * (values - 1)));
          const part = value * (values - 1) - below;
          return in16Bits((1 - part) * itemAt(itemAt(rows, below), 0) + part * itemAt(itemAt(rows, below + 1), 0));
        };
      };
      const light = curve(tables.light, LIGHT_VALUES);
      const codeOf = curve(tables.code, CODE_VALUES);
      const cube = tables.bend === null ? null : rowsOf(tables.bend, `LUT_3D_SIZE ${CUBE_SIDE}`);
      const bend = (codes: readonly number[]): readonly number[] => {
        if (!cube) return codes;
        const places = codes.map((value) => value * (CUBE_SIDE - 1));
        const corner = places.map((value) => Math.min(CUBE_SIDE - 2, Math.floor(value)));
        const parts = places.map((value, c) => value - itemAt(corner, c));
        const at = (): number[] =>
          itemAt(cube, itemAt(corner, 0) + CUBE_SIDE * (itemAt(corner, 1) + CUBE_SIDE * itemAt(corner, 2)));
        const order = [0, 1, 2].sort((a, b) => itemAt(parts, b) - itemAt(parts, a));
        let sum = at().map((value) => value * (1 - itemAt(parts, itemAt(order, 0))));
        for (const [i, channel] of order.entries()) {
          corner[channel] = itemAt(corner, channel) + 1;
          const next = order[i + 1];
          const weight = itemAt(parts, channel) - (next === undefined ? 0 : itemAt(parts, next));
          const there = at();
          sum = sum.map((value, c) => value + weight * itemAt(there, c));
        }
        return sum;
      };
      const { mix } = colourSteps(one);
      const exact = toBt709(one);
      fc.assert(
        fc.property(code, code, code, (red, green, blue) => {
          const lights = [red, green, blue].map((value) => light(in16Bits(value)));
          const mixed = mix.map((row) => in16Bits(row.reduce((sum, share, c) => sum + share * itemAt(lights, c), 0)));
          const seen = bend(mixed.map(codeOf));
          for (const [c, value] of exact([red, green, blue]).entries())
            expect(Math.abs(value - itemAt(seen, c))).toBeLessThan(most / 255);
        }),
        { numRuns: 2000 },
      );
    }
  });
});
