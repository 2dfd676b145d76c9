import type { MusicAnalysis } from "../../music/index.ts";

/** The analysis of one song as the command line writes it. Times count from the first decoded sample. */
export interface MusicJson extends MusicAnalysis {
  readonly file: string;
}

export function writeMusicJson(file: string, analysis: MusicAnalysis): string {
  const { durationSeconds, steady, tempoBpm, meter, beats, bars, sections, accents, energy, musicEndSeconds } =
    analysis;
  const json: MusicJson = {
    file,
    durationSeconds,
    steady,
    tempoBpm,
    meter,
    beats,
    bars,
    sections,
    accents,
    energy,
    musicEndSeconds,
  };
  return `${JSON.stringify(json, null, 1)}\n`;
}
