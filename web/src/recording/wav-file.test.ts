import { describe, expect, it } from "vitest";
import { WaveFile } from "wavefile";
import { wavFile } from "./wav-file.ts";

describe("a recording as WAV", () => {
  it("is read by another program as what was recorded", () => {
    const pieces = [Float32Array.of(0, 0.5, -0.5, 1, -1), Float32Array.of(1.5, -1.5, 2 ** -23, -(2 ** -23), 0.1)];
    const wav = new WaveFile(wavFile(pieces, 48_000));
    expect(wav.fmt).toMatchObject({ numChannels: 1, sampleRate: 48_000, bitsPerSample: 24, audioFormat: 1 });
    const full = 2 ** 23;
    expect([...wav.getSamples()]).toEqual([
      ...[0, full / 2, -full / 2, full - 1, -full, full - 1, -full, 1, -1],
      Math.round(Math.fround(0.1) * full),
    ]);
  });

  it("has an even length, and may be empty", () => {
    expect(wavFile([Float32Array.of(0.25)], 44_100)).toHaveLength(48);
    expect(new WaveFile(wavFile([], 44_100)).getSamples()).toHaveLength(0);
  });
});
