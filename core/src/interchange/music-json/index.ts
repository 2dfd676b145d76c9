import type { MusicAnalysis } from "../../music/index.ts";

/** The analysis of one song as the command line writes it: docs/formats.md. Times count from the first decoded sample. */
export interface MusicJson extends MusicAnalysis {
  readonly file: string;
}

export function writeMusicJson(file: string, analysis: MusicAnalysis): string {
  const json: MusicJson = { file, ...analysis };
  return `${JSON.stringify(json, null, 1)}\n`;
}
