import type { FilmMeasurement } from "@humming-tide/contract";
import { decibels, LOUDNESS_SAMPLE_RATE, LoudnessMeter, TruePeakMeter } from "@humming-tide/core/sound";
import { inputFile, startFfmpeg } from "../media/ffmpeg.ts";

const BYTES_PER_FRAME = 8;

/** How loud a film is, whose sound is stereo; decoded and measured as it comes: memory stays flat over an hour. Throws `ffmpeg-failed`. */
export async function measureLoudness(path: string): Promise<NonNullable<FilmMeasurement["sound"]["loudness"]>> {
  const { child, finished } = await startFfmpeg([
    ...inputFile(path),
    ...["-map", "0:a:0", "-vn", "-ac", "2", "-ar", String(LOUDNESS_SAMPLE_RATE), "-f", "f32le", "pipe:1"],
  ]);
  const [loudness, peak] = [new LoudnessMeter(), new TruePeakMeter()];
  try {
    let rest: Buffer = Buffer.alloc(0);
    for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
      const bytes = rest.length ? Buffer.concat([rest, chunk]) : chunk;
      const count = Math.floor(bytes.length / BYTES_PER_FRAME);
      const [left, right] = [new Float32Array(count), new Float32Array(count)];
      for (let i = 0; i < count; i++) {
        left[i] = bytes.readFloatLE(i * BYTES_PER_FRAME);
        right[i] = bytes.readFloatLE(i * BYTES_PER_FRAME + 4);
      }
      loudness.add([left, right]);
      peak.add([left, right]);
      rest = bytes.subarray(count * BYTES_PER_FRAME);
    }
    await finished;
  } finally {
    child.kill("SIGKILL");
  }
  const { integratedLufs, rangeLu } = loudness.result();
  return {
    integratedLufs: Number.isFinite(integratedLufs) ? integratedLufs : null,
    rangeLu,
    truePeakDbtp: peak.peak > 0 ? decibels(peak.peak) : null,
  };
}
