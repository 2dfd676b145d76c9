import bidiFactory from "bidi-js";
import type { PlannedLine } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import { candidateFiles, type Face, type FontFile, graphemes, JOINED_FONTS } from "./font-files.ts";
import type { ShapedRun, Shaper } from "./shaper.ts";

const bidi = bidiFactory();

/** How a line's letters are set, apart from their size and colour. */
export type LineFace = Face & Pick<PlannedLine, "spacing" | "capitals">;

/** Small capitals are capitals of this size: about as tall as small letters with a stem. */
const SMALL_CAPITALS = 0.8;

/** A stretch of a line in one font and one direction. */
interface TextRun {
  readonly text: string;
  /** Its place in the paragraph. */
  readonly start: number;
  readonly file: string;
  /** Odd: right to left (UAX 9). */
  readonly level: number;
  /** Of the line's size; small capitals are smaller. */
  readonly scale: number;
  /** Between letters, in ems of the line. */
  readonly spacing: number;
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
 * Divides a paragraph by direction (Unicode bidirectional algorithm), by font (a film font first,
 * then others that have the letter) and by size. Capitals take the place of small letters where
 * they are wished; the paragraph's text is what is drawn.
 */
export function divideParagraph(
  written: string,
  face: LineFace,
  files: readonly FontFile[],
  shaper: Shaper,
): Paragraph {
  const letters = withCapitals(written, face.capitals);
  const text = letters.map((letter) => letter.text).join("");
  const { levels, paragraphs } = bidi.getEmbeddingLevels(text);
  const missing = new Set<string>();
  const runs: TextRun[] = [];
  let before = null as Pick<TextRun, "file" | "level" | "scale" | "spacing"> | null;
  let start = 0;
  for (const { text: grapheme, isSmall } of letters) {
    const level = levels[start] ?? 0;
    const isSpace = grapheme.trim() === "";
    // A space belongs to the word before it: a run of its own would break what is shaped together.
    const kept = before && isSpace && shaper.covers(before.file, grapheme) ? before.file : null;
    const candidates = candidateFiles(files, grapheme, face);
    const found = kept ?? candidates.find(({ name }) => shaper.covers(name, grapheme))?.name;
    if (found === undefined && !isSpace) missing.add(grapheme);
    const file = found ?? before?.file ?? mainFile(files, face);
    const scale = isSmall ? SMALL_CAPITALS : 1;
    const spacing = JOINED_FONTS.has(face.font) || JOINED_SCRIPTS.test(grapheme) ? 0 : face.spacing;
    const last = runs.at(-1);
    const isSame = before?.file === file && before.level === level && before.scale === scale;
    if (last && isSame && before?.spacing === spacing) runs[runs.length - 1] = { ...last, text: last.text + grapheme };
    else runs.push({ text: grapheme, start, file, level, scale, spacing });
    before = { file, level, scale, spacing };
    start += grapheme.length;
  }
  return { text, runs, isRightToLeft: ((paragraphs[0]?.level ?? 0) & 1) === 1, missing: [...missing] };
}

/** Scripts whose letters are joined. */
const JOINED_SCRIPTS = /[\p{Script=Arabic}\p{Script=Syriac}\p{Script=Mongolian}]/u;

/** The graphemes of a line as they are drawn; "small": one that was a small letter. */
function withCapitals(
  written: string,
  capitals: LineFace["capitals"],
): { readonly text: string; readonly isSmall: boolean }[] {
  return graphemes(written).map(({ text }) => {
    if (capitals === "as-written") return { text, isSmall: false };
    const capital = text.toUpperCase();
    return { text: capital, isSmall: capitals === "small" && capital !== text };
  });
}

/** Shapes a part of a run; all lengths in ems of the line. */
export function shapeRun({ file, level, scale, spacing }: TextRun, text: string, shaper: Shaper): ShapedRun {
  const shaped = shaper.shape(file, text, (level & 1) === 1, spacing !== 0);
  if (scale === 1 && spacing === 0) return shaped;
  let x = 0;
  const glyphs = shaped.glyphs.map((glyph) => {
    // A mark stands on the letter before it and takes no room.
    const room = glyph.advance > 0 ? spacing : 0;
    const placed = {
      ...glyph,
      x: scale * glyph.x + x,
      y: scale * glyph.y,
      advance: scale * glyph.advance + room,
    };
    x += room;
    return placed;
  });
  return { glyphs, width: scale * shaped.width + x };
}

/** The file that says how tall lines of a font are. */
export const mainFile = (files: readonly FontFile[], face: Face): string =>
  itemAt(candidateFiles(files, "x", face), 0).name;

/**
 * All files that must be loaded before a text can be laid out: whatever might draw one of its
 * graphemes.
 */
export function neededFiles(files: readonly FontFile[], text: string, face: LineFace): ReadonlySet<string> {
  const needed = new Set([mainFile(files, face)]);
  for (const grapheme of new Set(withCapitals(text, face.capitals).map((part) => part.text)))
    for (const { name } of candidateFiles(files, grapheme, face)) needed.add(name);
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
