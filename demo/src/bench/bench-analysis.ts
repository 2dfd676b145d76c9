import { analyseMusic } from "@humming-tide/core/music";
import { itemAt } from "@humming-tide/core/presence";
import { shippedBeatNetwork } from "@humming-tide/server";
import { composeSong, SONGS } from "../music/songs.ts";
import { median } from "./measure.ts";

/**
 * Processor seconds for a minute of music, decoding left out, and how far the beats found lie from
 * the truth.
 */
export function benchAnalysis(): void {
  for (const plan of SONGS) {
    const { sound, truth } = composeSong(plan);
    const samples = sound.left.map((value, i) => (value + itemAt(sound.right, i)) / 2);
    const before = process.cpuUsage();
    const { beats } = analyseMusic({ samples, sampleRate: sound.sampleRate }, shippedBeatNetwork());
    const { user, system } = process.cpuUsage(before);
    const minutes = samples.length / sound.sampleRate / 60;
    const errors = truth.beats.map((beat) => Math.min(...beats.map((found) => Math.abs(found.seconds - beat.seconds))));
    const hits = errors.filter((error) => error <= 0.02).length;
    console.log(
      `  ${plan.name}: ${((user + system) / 1e6 / minutes).toFixed(2)} CPU s per minute; ${hits} of ${truth.beats.length} beats within 20 ms, median error ${(1000 * median(errors)).toFixed(1)} ms`,
    );
  }
}
