import { assertNever } from "../errors/index.ts";
import type { Seconds } from "../time/index.ts";
import { readBeatsText, writeBeatsText } from "./beats-text/index.ts";
import type { Marks } from "./marks/index.ts";
import { readMarksCsv, writeMarksCsv } from "./marks-csv/index.ts";
import { readMarksMidi, writeMarksMidi } from "./midi/index.ts";
import { readWavCues } from "./wav-cues/index.ts";
import { readWebVtt, writeWebVtt } from "./webvtt/index.ts";

/**
 * Formats that marks are written to as files of their own, by the ending of the file name. WAV cue
 * points go into a sound file: withWavCues.
 */
export const MARKS_FORMATS = ["beats", "csv", "vtt", "mid"] as const;
export type MarksFormat = (typeof MARKS_FORMATS)[number];

/**
 * Reads beats and markers from a file of any of the formats (docs/formats.md), told by its content;
 * the name only says whether a text is a table (.csv, .tsv). Text is UTF-8. Throws
 * `marks-unreadable` with line or byte.
 */
export function readMarks(bytes: Uint8Array, fileName: string): Marks {
  const begins = (word: string): boolean => new TextDecoder("latin1").decode(bytes.subarray(0, word.length)) === word;
  if (begins("MThd")) return readMarksMidi(bytes);
  if (begins("RIFF")) return { beats: [], markers: readWavCues(bytes) };
  const text = new TextDecoder().decode(bytes);
  if (text.replace(/^\uFEFF/, "").startsWith("WEBVTT")) return { beats: [], markers: readWebVtt(text) };
  if (/\.(?:csv|tsv)$/i.test(fileName)) return readMarksCsv(text);
  return readBeatsText(text);
}

/**
 * Writes marks; beats text holds no markers and WebVTT no beats, the others both. `endSeconds` is
 * the end of the song.
 */
export function writeMarks(format: MarksFormat, marks: Marks, endSeconds: Seconds): Uint8Array {
  const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
  switch (format) {
    case "beats":
      return encode(writeBeatsText(marks.beats));
    case "csv":
      return encode(writeMarksCsv(marks));
    case "vtt":
      return encode(writeWebVtt(marks.markers, endSeconds));
    case "mid":
      return writeMarksMidi(marks, endSeconds);
    default:
      return assertNever(format);
  }
}
