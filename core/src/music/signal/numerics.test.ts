import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf } from "../../presence/index.ts";
import { evenPulse } from "../beats/even-pulse.ts";
import { chroma } from "./chroma.ts";
import { convolve, halfPrecisionNumbers, type NetworkLayer } from "./convolution.ts";
import { decimate } from "./resample.ts";

describe("a convolution in time", () => {
  it("is the sum that its definition says, whatever the shape", () => {
    const shapes = fc.record({
      inputs: fc.integer({ min: 1, max: 5 }),
      outputs: fc.constantFrom(2, 8),
      taps: fc.constantFrom(1, 3, 5),
      dilation: fc.constantFrom(1, 2, 8),
      rows: fc.integer({ min: 1, max: 9 }),
      seed: fc.integer({ min: 1, max: 1000 }),
    });
    fc.assert(
      fc.property(shapes, ({ inputs, outputs, taps, dilation, rows, seed }) => {
        const numbers = (count: number, salt: number) =>
          Float64Array.from({ length: count }, (_, i) => Math.sin((i + 1) * (seed + salt)));
        const layer: NetworkLayer = {
          inputs,
          outputs,
          taps,
          dilation,
          weights: numbers(outputs * taps * inputs, 1),
          bias: numbers(outputs, 2),
        };
        const input = Float32Array.from(numbers(rows * inputs, 3));
        const out = convolve(layer, input, rows);
        for (let row = 0; row < rows; row++) {
          for (let o = 0; o < outputs; o++) {
            let sum = itemAt(layer.bias, o);
            for (let t = 0; t < taps; t++) {
              const source = row + (t - (taps - 1) / 2) * dilation;
              if (source < 0 || source >= rows) continue;
              for (let i = 0; i < inputs; i++)
                sum +=
                  itemAt(layer.weights, ((Math.floor(o / 2) * taps + t) * inputs + i) * 2 + (o % 2)) *
                  itemAt(input, source * inputs + i);
            }
            expect(out[row * outputs + o]).toBeCloseTo(sum, 4);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  it("reads half-precision numbers: values of IEEE 754", () => {
    // 1, -2, 65504 (largest), 2^-24 (smallest subnormal), 0.333251953125, -0
    const words = [0x3c00, 0xc000, 0x7bff, 0x0001, 0x3555, 0x8000];
    const bytes = Uint8Array.from(words.flatMap((word) => [word & 255, word >> 8]));
    expect([...halfPrecisionNumbers(bytes)]).toEqual([1, -2, 65504, 2 ** -24, 0.333251953125, -0]);
  });
});

describe("an even pulse", () => {
  it("makes the gradient of what it minimises vanish", () => {
    const noisy = fc.array(fc.tuple(fc.double({ min: -0.2, max: 0.2, noNaN: true }), fc.constantFrom(0, 0.01, 1)), {
      minLength: 3,
      maxLength: 30,
    });
    fc.assert(
      fc.property(noisy, fc.double({ min: 0.01, max: 500, noNaN: true }), (list, stiffness) => {
        const times = list.map(([noise], i) => i * 0.5 + noise);
        const weights = list.map(([, weight], i) => (i < 2 ? 1 : weight));
        const x = evenPulse(times, weights, stiffness);
        const bend = (i: number): number =>
          i < 1 || i + 1 >= x.length ? 0 : itemAt(x, i - 1) - 2 * itemAt(x, i) + itemAt(x, i + 1);
        x.forEach((value, i) => {
          const gradient =
            itemAt(weights, i) * (value - itemAt(times, i)) + stiffness * (bend(i - 1) - 2 * bend(i) + bend(i + 1));
          expect(Math.abs(gradient)).toBeLessThan(1e-6 * (1 + stiffness));
        });
      }),
    );
  });
});

describe("decimation", () => {
  const tone = (hz: number) =>
    Float32Array.from({ length: 44_100 }, (_, i) => Math.sin((2 * Math.PI * hz * i) / 44_100));
  const level = (samples: Float32Array) =>
    Math.sqrt(samples.subarray(500, -500).reduce((sum, value) => sum + value * value, 0) / (samples.length - 1000));

  it("keeps what fits, in place, and lets nothing else through as an alias", () => {
    const kept = decimate(tone(1000), 2);
    expect(kept).toHaveLength(22_050);
    for (let i = 100; i < 22_000; i += 97) expect(kept[i]).toBeCloseTo(Math.sin((2 * Math.PI * 1000 * i) / 22_050), 2);
    // A constant sound: the filter sees the same silence beyond either end, and nothing of it
    // inside.
    const ends = decimate(new Float32Array(801).fill(1), 2);
    expect(ends[0]).toBeCloseTo(lastOf(ends), 6);
    expect(ends[200]).toBeCloseTo(1, 2);
    expect(level(decimate(tone(15_000), 2))).toBeLessThan(0.01);
    expect(level(decimate(tone(5000), 8))).toBeLessThan(0.01);
  });
});

describe("chroma", () => {
  it("names the notes of a chord, whatever its octave", () => {
    const chord = [261.63, 329.63, 783.99]; // C4, E4, G5
    const samples = Float32Array.from({ length: 22_050 * 2 }, (_, i) =>
      chord.reduce((sum, hz) => sum + 0.2 * Math.sin((2 * Math.PI * hz * i) / 22_050), 0),
    );
    const { treble, frameCount } = chroma({ samples, sampleRate: 22_050 });
    expect(frameCount).toBe(100);
    const row = [...treble.subarray(50 * 12, 51 * 12)];
    const loudest = row.map((value, pitch) => [value, pitch] as const).sort((a, b) => b[0] - a[0]);
    expect(
      loudest
        .slice(0, 3)
        .map(([, pitch]) => pitch)
        .sort((a, b) => a - b),
    ).toEqual([0, 4, 7]);
    expect(itemAt(loudest, 3)[0]).toBeLessThan(0.1);
  });
});
