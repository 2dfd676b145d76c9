import type { PlannedWords, WordPiece } from "../picture/index.ts";
import type { LaidLine, LaidWords } from "./lay-words.ts";

/** A part of laid words that is drawn by itself, and how. */
interface WordPart extends Pick<WordPiece<unknown>, "role" | "line" | "cuts"> {
  readonly laid: LaidWords;
  readonly words: Pick<PlannedWords, "outline" | "shadow" | "backing" | "colour">;
}

const BARE = { outline: null, shadow: 0, backing: null } as const;

/**
 * The parts that words are drawn in, from the bottom up. All of them together where they fade; of
 * credits each line; else ground, lines and ornament each by itself. O(letters).
 */
export function partsOf(laid: LaidWords, words: PlannedWords): WordPart[] {
  const whole = { role: "all", line: 0, cuts: [] } as const;
  if (words.kind === "credits") return laid.lines.map((line) => ({ ...whole, laid: only(laid, line), words }));
  if (words.entrance === "fade") return [{ ...whole, laid, words }];
  const { colour, outline, shadow, backing } = words;
  const parts: WordPart[] = [];
  if (backing) {
    const ground = { ...BARE, colour, backing };
    parts.push({ role: "ground", line: 0, cuts: [], laid: { ...laid, lines: [], ornament: [] }, words: ground });
  }
  if (outline || shadow > 0)
    for (const line of laid.lines)
      parts.push({
        ...{ role: "behind", line: line.written, cuts: cutsOf(line) },
        ...{ laid: only(laid, line), words: { ...BARE, colour, outline, shadow } },
      });
  for (const line of laid.lines)
    parts.push({
      ...{ role: "letters", line: line.written, cuts: cutsOf(line) },
      ...{ laid: only(laid, line), words: { ...BARE, colour } },
    });
  if (laid.ornament.length > 0) {
    const alone = { ...laid, lines: [], bounds: boundsOf(laid.ornament) };
    parts.push({ role: "ornament", line: 0, cuts: [], laid: alone, words: { ...BARE, colour, outline, shadow } });
  }
  return parts;
}

const only = (laid: LaidWords, line: LaidLine): LaidWords => ({
  ...laid,
  lines: [line],
  ornament: [],
  bounds: line.box,
});

function boundsOf(ornament: LaidWords["ornament"]): LaidWords["bounds"] {
  const corners = ornament.flat();
  const [left, top] = [Math.min(...corners.map(({ x }) => x)), Math.min(...corners.map(({ y }) => y))];
  return {
    x: left,
    y: top,
    width: Math.max(...corners.map(({ x }) => x)) - left,
    height: Math.max(...corners.map(({ y }) => y)) - top,
  };
}

/**
 * Between the ink of letters that stand beside each other, in the middle of the gap; where letters
 * touch, or a mark stands on one, there is no cut.
 */
function cutsOf({ glyphs }: LaidLine): number[] {
  const inks = glyphs.flatMap(({ outline, paints, x, pixels }) => {
    const all = paints ? paints.flatMap((paint) => paint.outline) : outline;
    const across = all.flatMap(
      (step) => step.filter((value, i) => i % 2 === 1 && typeof value === "number") as number[],
    );
    if (across.length === 0) return [];
    return [{ left: x + pixels * Math.min(...across), right: x + pixels * Math.max(...across) }];
  });
  inks.sort((a, b) => a.left - b.left);
  const cuts: number[] = [];
  let right = Number.NEGATIVE_INFINITY;
  for (const ink of inks) {
    if (right > Number.NEGATIVE_INFINITY && ink.left > right) cuts.push((right + ink.left) / 2);
    right = Math.max(right, ink.right);
  }
  return cuts;
}
