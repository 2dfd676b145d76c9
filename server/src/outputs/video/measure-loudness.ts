import type { FilmMeasurement } from "@humming-tide/contract";
import { decibels, LoudnessMeter, TruePeakMeter } from "@humming-tide/core/sound";
import { stereoPieces } from "../../media/stereo-pieces.ts";

/**
 * How loud a film is, whose sound is stereo; decoded and measured as it comes: memory stays flat
 * over an hour. Throws `ffmpeg-failed`.
 */
export async function measureLoudness(path: string): Promise<NonNullable<FilmMeasurement["sound"]["loudness"]>> {
  const [loudness, peak] = [new LoudnessMeter(), new TruePeakMeter()];
  for await (const piece of stereoPieces(path)) {
    loudness.add(piece);
    peak.add(piece);
  }
  const { integratedLufs, rangeLu } = loudness.result();
  return {
    integratedLufs: Number.isFinite(integratedLufs) ? integratedLufs : null,
    rangeLu,
    truePeakDbtp: peak.peak > 0 ? decibels(peak.peak) : null,
  };
}
