import { execFileSync } from "node:child_process";
import path from "node:path";

/**
 * What is done to songs to see whether they are heard as before: none of it moves a sound in time.
 * Filters of ffmpeg; `mp3` is coded and decoded, and the decoder cuts off the codec's delay.
 */
const FILTERS: Readonly<Record<string, string>> = {
  "treble +8 dB": "treble=g=8:f=3000",
  "treble -8 dB": "treble=g=-8:f=3000",
  "bass +8 dB": "bass=g=8:f=150",
  "bass -8 dB": "bass=g=-8:f=150",
  "nothing below 200 Hz": "highpass=f=200,highpass=f=200",
  "hard limiter": "volume=14dB,alimiter=limit=0.9:attack=1:release=30:level=false",
  "one channel": "pan=mono|c0=c0",
  "MP3 at 96 kbit/s": "anull",
};
export const TREATMENTS = Object.keys(FILTERS);

/** Writes the treated song to `folder` and returns its path. Throws where ffmpeg cannot. */
export function treated(song: string, treatment: string, folder: string): string {
  const filter = FILTERS[treatment];
  if (filter === undefined)
    throw new Error(`There is no treatment "${treatment}". There are: ${TREATMENTS.join(", ")}.`);
  const out = path.join(folder, "treated.wav");
  const convert = (...args: string[]): Buffer => execFileSync("ffmpeg", ["-v", "error", "-y", ...args]);
  if (treatment.startsWith("MP3")) {
    const coded = path.join(folder, "treated.mp3");
    convert("-i", song, "-b:a", "96k", coded);
    convert("-i", coded, out);
  } else {
    convert("-i", song, "-af", filter, out);
  }
  return out;
}
