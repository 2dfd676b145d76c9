import bidiFactory from "bidi-js";
import { itemAt } from "../presence/index.ts";
import type { FilmFont } from "../show/index.ts";
import { candidateFiles, type FontFile, graphemes } from "./font-files.ts";
import type { Shaper } from "./shaper.ts";

const bidi = bidiFactory();

/** A stretch of a line in one font and one direction. */
interface TextRun {
  readonly text: string;
  /** Its place in the paragraph. */
  readonly start: number;
  readonly file: string;
  /** Odd: right to left (UAX 9). */
  readonly level: number;
}

/** A paragraph divided for shaping, in the order in which it is read. */
export interface Paragraph {
  readonly text: string;
  readonly runs: readonly TextRun[];
  readonly isRightToLeft: boolean;
  /** Graphemes that no font has; each once. */
  readonly missing: readonly string[];
}

/**
 * Divides a paragraph by direction (Unicode bidirectional algorithm) and by font: a film font
 * first, then others that have the letter.
 */
export function divideParagraph(
  text: string,
  font: FilmFont,
  weight: 400 | 700,
  files: readonly FontFile[],
  shaper: Shaper,
): Paragraph {
  const { levels, paragraphs } = bidi.getEmbeddingLevels(text);
  const missing = new Set<string>();
  const runs: TextRun[] = [];
  let before = null as { readonly file: string; readonly level: number } | null;
  for (const { text: grapheme, start } of graphemes(text)) {
    const level = levels[start] ?? 0;
    const isSpace = grapheme.trim() === "";
    // A space belongs to the word before it: a run of its own would break what is shaped together.
    const kept = before && isSpace && shaper.covers(before.file, grapheme) ? before.file : null;
    const candidates = candidateFiles(files, grapheme, font, weight);
    const found = kept ?? candidates.find(({ name }) => shaper.covers(name, grapheme))?.name;
    if (found === undefined && !isSpace) missing.add(grapheme);
    const file = found ?? before?.file ?? mainFile(files, font, weight);
    const last = runs.at(-1);
    if (last && before?.file === file && before.level === level)
      runs[runs.length - 1] = { ...last, text: last.text + grapheme };
    else runs.push({ text: grapheme, start, file, level });
    before = { file, level };
  }
  return { text, runs, isRightToLeft: ((paragraphs[0]?.level ?? 0) & 1) === 1, missing: [...missing] };
}

/** The file that says how tall lines of a font are. */
export function mainFile(files: readonly FontFile[], font: FilmFont, weight: 400 | 700): string {
  return itemAt(candidateFiles(files, "x", font, weight), 0).name;
}

/**
 * All files that must be loaded before a text can be laid out: whatever might draw one of its
 * graphemes.
 */
export function neededFiles(
  files: readonly FontFile[],
  text: string,
  font: FilmFont,
  weight: 400 | 700,
): ReadonlySet<string> {
  const needed = new Set([mainFile(files, font, weight)]);
  for (const grapheme of new Set(graphemes(text).map((part) => part.text)))
    for (const { name } of candidateFiles(files, grapheme, font, weight)) needed.add(name);
  return needed;
}

/**
 * Runs of one line from left to right: from the highest level down, every stretch of at least that
 * level is reversed (UAX 9, rule L2).
 */
export function visualOrder<Run extends { readonly level: number }>(runs: readonly Run[]): Run[] {
  const ordered = [...runs];
  const highest = Math.max(0, ...ordered.map(({ level }) => level));
  for (let level = highest; level >= 1; level--) {
    for (let from = 0; from < ordered.length; from++) {
      let to = from;
      while (to < ordered.length && itemAt(ordered, to).level >= level) to++;
      if (to - from > 1) ordered.splice(from, to - from, ...ordered.slice(from, to).reverse());
      from = Math.max(from, to);
    }
  }
  return ordered;
}
