import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { CUBE_NODES, cubeText, needsColourChange, toBt709, type VideoColours } from "./index.ts";
import { type Light, lightInBt709, luminanceShares } from "./primaries.ts";
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
  const rowsOf = (primaries: Parameters<typeof lightInBt709>[0]): number[][] => {
    const columns = (
      [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ] as const
    ).map(lightInBt709(primaries));
    return [0, 1, 2].map((row) => columns.map((column) => itemAt(column, row)));
  };

  it("is that of the matrix which ITU-R BT.2087-0 publishes for BT.2020", () => {
    expect(rowsOf("bt2020").map((row) => row.map((value) => Math.round(value * 1e4) / 1e4))).toEqual([
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
    for (const [row, values] of rowsOf("smpte432").entries())
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

  it("stand in a table for other programs, red fastest, each as the exact way has it", () => {
    const [size, ...rows] = cubeText(HLG).trimEnd().split("\n");
    expect(size).toBe(`LUT_3D_SIZE ${CUBE_NODES}`);
    expect(rows).toHaveLength(CUBE_NODES ** 3);
    const convert = toBt709(HLG);
    for (const [red, green, blue] of [
      [0, 0, 0],
      [63, 0, 0],
      [5, 40, 21],
      [63, 63, 63],
    ] as const) {
      const row = itemAt(rows, red + CUBE_NODES * (green + CUBE_NODES * blue))
        .split(" ")
        .map(Number);
      const exact = convert([red / 63, green / 63, blue / 63]);
      for (const [c, value] of row.entries()) expect(value).toBeCloseTo(itemAt(exact, c), 4);
    }
  });
});
