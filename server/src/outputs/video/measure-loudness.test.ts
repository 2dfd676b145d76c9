import { spawnSync } from "node:child_process";
import path from "node:path";
import { present } from "@humming-tide/core/presence";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ffmpeg, temporaryFolder } from "../../testing/index.ts";
import { measureLoudness } from "./measure-loudness.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(() => place.remove());

/** What ffmpeg's ebur128 filter says of a file: an implementation that is not ours. */
function ebur128(file: string): { lufs: number; range: number; peak: number } {
  const args = ["-hide_banner", "-nostats", "-i", file, "-af", "ebur128=peak=true", "-f", "null", "-"];
  const { stderr } = spawnSync("ffmpeg", args, { encoding: "utf8" });
  const summary = stderr.slice(stderr.lastIndexOf("Summary:"));
  const number = (pattern: RegExp): number => Number(present(pattern.exec(summary))[1]);
  return { lufs: number(/I:\s+(\S+) LUFS/), range: number(/LRA:\s+(\S+) LU/), peak: number(/Peak:\s+(\S+) dBFS/) };
}

describe("loudness of a file", () => {
  it.each([
    ["noise that swells", "anoisesrc=d=40:r=48000:c=pink:a=0.5:seed=3,tremolo=f=0.1:d=0.9", "wav"],
    [
      "a chord with a beat, loud",
      "aevalsrc='0.9*(sin(330*2*PI*t)+sin(415*2*PI*t))*exp(-4*mod(t,0.5))|0.8*sin(550*2*PI*t)*exp(-3*mod(t,0.5))':s=48000:d=30",
      "wav",
    ],
    ["sound at 44.1 kHz", "anoisesrc=d=20:r=44100:c=brown:a=0.3:seed=9", "wav"],
    ["a lossy file", "anoisesrc=d=20:r=48000:c=white:a=0.1:seed=5,lowpass=f=3000", "m4a"],
  ])("of %s is what ffmpeg's ebur128 says", async (name, source, kind) => {
    const file = path.join(place.folder, `${name}.${kind}`);
    ffmpeg(["-f", "lavfi", "-i", source, "-ac", "2", file]);
    const [ours, theirs] = [await measureLoudness(file), ebur128(file)];
    expect(Math.abs(present(ours.integratedLufs) - theirs.lufs)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(ours.rangeLu - theirs.range)).toBeLessThanOrEqual(0.2);
    expect(Math.abs(present(ours.truePeakDbtp) - theirs.peak)).toBeLessThanOrEqual(0.3);
  });

  it("of silence is said as none", async () => {
    const file = path.join(place.folder, "silence.wav");
    ffmpeg(["-f", "lavfi", "-i", "anullsrc=r=48000:cl=stereo:d=3", file]);
    expect(await measureLoudness(file)).toEqual({ integratedLufs: null, rangeLu: 0, truePeakDbtp: null });
  });
});
