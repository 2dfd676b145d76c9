import { type PlannedWords, placeShares, type Rectangle, type Size, safeArea } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import { DEFAULT_WORDS } from "./default-words.ts";

/** Of letters on the mean, and of a line, in ems: of the film's fonts together. */
const LETTER_WIDTH = 0.5;
const LINE_HEIGHT = 1.3;
const CAPITALS_WIDER = 1.3;

/**
 * About where words will stand in a frame, in pixels. It is known before their font is: lines and
 * widths are estimates, which are as often too large as too small. Credits take all of the frame.
 * O(letters).
 */
export function wordsArea({ kind, text, place, size, lines: faces }: PlannedWords, frame: Size): Rectangle {
  if (kind === "credits") return { x: 0, y: 0, ...frame };
  const usual = DEFAULT_WORDS[kind];
  const safe = safeArea(frame, "title");
  const em = usual.size * size * Math.min(frame.width, frame.height);
  const widest = (frame.height > frame.width ? Math.max(usual.width, 0.94) : usual.width) * safe.width;
  const lines = text.split("\n").map((line, i) => {
    const { size: share, spacing, capitals } = itemAt(faces, i);
    const pixels = em * share;
    const letter = spacing + LETTER_WIDTH * (capitals === "as-written" ? 1 : CAPITALS_WIDER);
    const length = [...line].length * letter * pixels;
    return { width: Math.min(widest, length), height: Math.max(1, Math.ceil(length / widest)) * LINE_HEIGHT * pixels };
  });
  const width = Math.max(...lines.map((line) => line.width));
  const height = Math.min(
    safe.height,
    lines.reduce((sum, line) => sum + line.height, 0),
  );
  const at = placeShares(place);
  return { x: safe.x + at.x * (safe.width - width), y: safe.y + at.y * (safe.height - height), width, height };
}
