import LineBreaker from "linebreak";
import { present } from "../presence/index.ts";
import { graphemes } from "./font-files.ts";
import { type Paragraph, shapeRun } from "./runs.ts";
import type { Shaper } from "./shaper.ts";

/** A paragraph measured once, in ems: lines can be broken for any size from it. */
export interface MeasuredParagraph {
  readonly paragraph: Paragraph;
  /** Pieces between which a line may be broken. */
  readonly pieces: readonly MeasuredPiece[];
}

interface MeasuredPiece {
  readonly start: number;
  /** Exclusive, without the space at its end. */
  readonly end: number;
  readonly width: number;
  /** Of the space at its end. */
  readonly space: number;
}

export interface LineRange {
  readonly start: number;
  /** Exclusive. */
  readonly end: number;
}

/**
 * The pieces of a paragraph between places where a line may break (UAX 14), each with its width in
 * font units. O(length).
 */
export function measureParagraph(paragraph: Paragraph, shaper: Shaper): MeasuredParagraph {
  const { text, runs } = paragraph;
  const advances = new Float64Array(text.length);
  for (const run of runs)
    for (const glyph of shapeRun(run, run.text, shaper).glyphs) advances[run.start + glyph.start]! += glyph.advance;
  const between = (from: number, to: number): number => advances.subarray(from, to).reduce((sum, one) => sum + one, 0);
  const pieces: MeasuredPiece[] = [];
  const breaker = new LineBreaker(text);
  let start = 0;
  for (let next = breaker.nextBreak(); next; next = breaker.nextBreak()) {
    const whole = text.slice(start, next.position);
    const end = start + whole.trimEnd().length;
    pieces.push({ start, end, width: between(start, end), space: between(end, next.position) });
    start = next.position;
  }
  return { paragraph, pieces };
}

/** Whether every piece fits into a line so wide. */
export const fitsUnbroken = ({ pieces }: MeasuredParagraph, width: number): boolean =>
  pieces.every((piece) => piece.width <= width);

/**
 * Lines not wider than `width` (in ems), as few as can be and as even as can be: the narrowest
 * width that gives the same number of lines. Ties go to the earlier break. A piece that is wider
 * than a line by itself is broken between graphemes. O(pieces log width).
 */
export function breakLines(measured: MeasuredParagraph, width: number, shaper: Shaper): LineRange[] {
  const whole = fitsUnbroken(measured, width) ? measured : brokenPieces(measured, width, shaper);
  const greedy = fill(whole, width);
  if (greedy.length < 2) return greedy;
  let [low, high] = [0, width];
  for (let step = 0; step < 12; step++) {
    const middle = (low + high) / 2;
    if (fitsUnbroken(whole, middle) && fill(whole, middle).length === greedy.length) high = middle;
    else low = middle;
  }
  return fill(whole, high);
}

function fill({ pieces }: MeasuredParagraph, width: number): LineRange[] {
  const lines: LineRange[] = [];
  let line: { start: number; end: number; width: number; space: number } | null = null;
  for (const piece of pieces) {
    if (line && line.width + line.space + piece.width <= width + 1e-9) {
      line = {
        start: line.start,
        end: piece.end,
        width: line.width + line.space + piece.width,
        space: piece.space,
      };
      continue;
    }
    if (line) lines.push(line);
    line = { ...piece };
  }
  if (line) lines.push(line);
  return lines.map(({ start, end }) => ({ start, end }));
}

/** Pieces that are too wide are broken between graphemes, so that every part fits. */
function brokenPieces({ paragraph, pieces }: MeasuredParagraph, width: number, shaper: Shaper): MeasuredParagraph {
  const parts = pieces.flatMap((piece): MeasuredPiece[] => {
    if (piece.width <= width) return [piece];
    const single = graphemes(paragraph.text.slice(piece.start, piece.end)).map(({ text, start }) => {
      const at = piece.start + start;
      const run = present(paragraph.runs.findLast((other) => other.start <= at));
      return {
        start: at,
        end: at + text.length,
        width: shapeRun(run, text, shaper).width,
        space: 0,
      };
    });
    return single.map((one, i) => (i === single.length - 1 ? { ...one, space: piece.space } : one));
  });
  return { paragraph, pieces: parts };
}
