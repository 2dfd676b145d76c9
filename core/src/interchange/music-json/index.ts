import type { MusicAnalysis } from "../../music/index.ts";

/**
 * The analysis of one song as the command line writes it: docs/formats.md. Times count from the
 * first decoded sample.
 */
export interface MusicJson extends Omit<MusicAnalysis, "texture"> {
  readonly file: string;
}

/**
 * What was heard in a song as JSON text with a line break at its end; `file` is the name it is told
 * under. Times are seconds of the song.
 */
export function writeMusicJson(file: string, analysis: MusicAnalysis): string {
  // Raw material for comparing bars, not a finding: left out, as JSON does with what is undefined.
  const json: MusicJson & { texture: undefined } = { file, ...analysis, texture: undefined };
  return `${JSON.stringify(json, null, 1)}\n`;
}
