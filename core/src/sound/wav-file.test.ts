import { describe, expect, it } from "vitest";
import { WaveFile } from "wavefile";
import { writeWav } from "./wav-file.ts";

describe("a WAV file", () => {
  it("is read by another program as what was written", () => {
    const samples = Float32Array.of(0, 0.5, -0.5, 1, -1, 1.5, -1.5, 2 ** -23, -(2 ** -23), 0.1);
    const wav = new WaveFile(writeWav([samples], 48_000, 24));
    expect(wav.fmt).toMatchObject({ numChannels: 1, sampleRate: 48_000, bitsPerSample: 24, audioFormat: 1 });
    const full = 2 ** 23;
    expect([...wav.getSamples()]).toEqual([
      ...[0, full / 2, -full / 2, full - 1, -full, full - 1, -full, 1, -1],
      Math.round(Math.fround(0.1) * full),
    ]);
  });

  it("has the samples of its channels beside each other, in 16 bits too", () => {
    const wav = new WaveFile(writeWav([Float32Array.of(0.5, -1), Float32Array.of(-0.5, 2)], 44_100, 16));
    expect(wav.fmt).toMatchObject({ numChannels: 2, sampleRate: 44_100, bitsPerSample: 16, audioFormat: 1 });
    expect([...wav.getSamples(true)]).toEqual([16_384, -16_384, -32_768, 32_767]);
  });

  it("has an even length, and may be empty", () => {
    expect(writeWav([Float32Array.of(0.25)], 44_100, 24)).toHaveLength(48);
    expect(new WaveFile(writeWav([new Float32Array(0)], 44_100, 24)).getSamples()).toHaveLength(0);
  });
});
