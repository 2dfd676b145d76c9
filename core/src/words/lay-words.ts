import {
  type PlannedLine,
  type PlannedWords,
  placeShares,
  type Rectangle,
  type Size,
  safeArea,
  type WordSheet,
} from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import type { FilmFont } from "../show/index.ts";
import { breakLines, fitsUnbroken, type MeasuredParagraph, measureParagraph } from "./break-lines.ts";
import { BACKING_PADDING, BACKING_SOFTNESS, DEFAULT_WORDS, isHeading, SMALLEST_SHARE } from "./default-words.ts";
import { type FontFile, leastSize } from "./font-files.ts";
import { type OrnamentRoom, ornamentRoom, ornamentShapes, type Shape } from "./ornaments.ts";
import { divideParagraph, mainFile, neededFiles, type Paragraph, shapeRun, visualOrder } from "./runs.ts";
import type { FontExtent, Outline, Paint, ShapedRun, Shaper } from "./shaper.ts";

/** A letter in its place, in pixels of the film; its shapes are in ems. */
export interface LaidGlyph {
  readonly outline: Outline;
  readonly paints: readonly Paint[] | null;
  readonly x: number;
  /** Of the line that it stands on. */
  readonly y: number;
  /** Pixels of an em. */
  readonly pixels: number;
}

export interface LaidLine {
  readonly glyphs: readonly LaidGlyph[];
  readonly box: Rectangle;
  readonly colour: string;
  /** Which line of the text it is, or is a part of. */
  readonly written: number;
}

/** Words in their place in a frame. */
export interface LaidWords {
  readonly lines: readonly LaidLine[];
  /** Around all lines; of credits, as if they began at the top of the frame. */
  readonly bounds: Rectangle;
  /** What is drawn beside the letters, from its middle outwards. */
  readonly ornament: readonly Shape[];
  /** Size of the main letters. */
  readonly pixels: number;
  /** Set smaller than asked, so that they fit. */
  readonly isShrunk: boolean;
  /** Fonts of lines that are set larger than asked, since they would not be read. */
  readonly raised: readonly FilmFont[];
  /** They do not fit even so: lines run out of their place, or cover other words. */
  readonly overflows: boolean;
  /** Graphemes that no font has; they are drawn as boxes. */
  readonly missing: readonly string[];
}

/** Which fonts there are, and the engine that shapes by them. */
export interface Fonts {
  readonly files: readonly FontFile[];
  readonly shaper: Shaper;
}

const SHRINK_STEP = 0.94;
/** Lines of letters stand at least so far from one another, in ems. */
const LEAST_LINE = 1.16;
const EMPTY_LINE = 0.6;
const HEADING_GAP = 0.5;
/** Between words and what they give way to, in ems. */
const GAP = 0.4;

/** The font files that words need before they can be laid out. */
export function filesForWords({ files }: Fonts, sheet: WordSheet): ReadonlySet<string> {
  return new Set(
    sheet.flatMap(({ text, lines }) =>
      text.split("\n").flatMap((line, i) => [...neededFiles(files, line, itemAt(lines, i))]),
    ),
  );
}

/**
 * Lays the words of a slide out in a frame: wrapped, set smaller where they would not fit, inside
 * the title-safe area, and none over another: later ones give way towards the middle of the frame.
 * Null while fonts are still missing. The same fonts give the same places everywhere. Some
 * milliseconds for a card full of text.
 */
export function laySheet(sheet: WordSheet, frame: Size, fonts: Fonts): readonly LaidWords[] | null {
  for (const file of filesForWords(fonts, sheet)) if (!fonts.shaper.isLoaded(file)) return null;
  const laid: LaidWords[] = [];
  for (const words of sheet) {
    const placed = layWords(words, frame, fonts);
    const others = sheet.flatMap(({ kind }, i) => (laid[i] && kind !== "credits" ? [laid[i].bounds] : []));
    laid.push(words.kind === "credits" ? placed : givingWay(placed, words, others, safeArea(frame, "title")));
  }
  return laid;
}

/** A line that somebody wrote, measured. */
interface WrittenLine {
  readonly index: number;
  readonly line: PlannedLine;
  /** Null for an empty one. */
  readonly measured: MeasuredParagraph | null;
  readonly isHeading: boolean;
  readonly extent: FontExtent;
}

/** A line as it stands; places in it are pixels from the block's top. */
interface SetLine {
  readonly written: WrittenLine;
  readonly paragraph: Paragraph;
  readonly start: number;
  readonly end: number;
  readonly pixels: number;
  readonly top: number;
  readonly height: number;
}

interface SetBlock {
  readonly lines: readonly SetLine[];
  readonly height: number;
  readonly isUnbroken: boolean;
}

function layWords(words: PlannedWords, frame: Size, fonts: Fonts): LaidWords {
  const usual = DEFAULT_WORDS[words.kind];
  const safe = safeArea(frame, "title");
  const shorter = Math.min(frame.width, frame.height);
  const wanted = usual.size * words.size * shorter;
  const written = writtenLines(words, fonts);
  const room = ornamentRoom(words.ornament);
  const size = {
    width: (frame.height > frame.width ? Math.max(usual.width, 0.94) : usual.width) * safe.width,
    height: usual.height * safe.height,
  };
  const set = (pixels: number): SetBlock => setLines(written, words, pixels, size.width, shorter, room, fonts.shaper);
  let pixels = wanted;
  let block = set(pixels);
  while (!(block.isUnbroken && block.height <= size.height) && pixels * SHRINK_STEP >= SMALLEST_SHARE * wanted) {
    pixels *= SHRINK_STEP;
    block = set(pixels);
  }
  const raised = written.filter(
    ({ line, measured }) => measured && line.size * pixels < leastSize(line.font) * shorter,
  );
  return {
    ...placeLines(block, words, safe, room, pixels, fonts),
    pixels,
    isShrunk: pixels < wanted,
    raised: [...new Set(raised.map(({ line }) => line.font))],
    overflows: block.height > size.height,
    missing: [...new Set(written.flatMap(({ measured }) => measured?.paragraph.missing ?? []))],
  };
}

function writtenLines(words: PlannedWords, { files, shaper }: Fonts): WrittenLine[] {
  return words.text.split("\n").map((text, index): WrittenLine => {
    const line = itemAt(words.lines, index);
    const isHead = words.kind === "credits" && isHeading(text);
    const shown = isHead ? text.trimEnd().slice(0, -1) : text;
    const extent = shaper.extent(mainFile(files, line));
    const measured = shown.trim() === "" ? null : measureParagraph(divideParagraph(shown, line, files, shaper), shaper);
    return { index, line, measured, isHeading: isHead, extent };
  });
}

const heightOfLine = ({ ascent, descent }: FontExtent): number => Math.max(LEAST_LINE, ascent + descent);

/** Everything broken into lines at a size; without the empty lines at the beginning and the end. */
function setLines(
  written: readonly WrittenLine[],
  { lineSpacing }: PlannedWords,
  pixels: number,
  width: number,
  shorter: number,
  room: OrnamentRoom,
  shaper: Shaper,
): SetBlock {
  const lines: SetLine[] = [];
  let top = room.above * pixels;
  let gap = 0;
  let isUnbroken = true;
  const letters = width - (room.before + 2 * room.beside) * pixels;
  for (const one of written) {
    const { measured, line, isHeading: isHead, extent } = one;
    if (!measured) {
      gap += EMPTY_LINE * pixels;
      continue;
    }
    if (lines.length > 0) top += gap + (isHead ? HEADING_GAP * pixels : 0);
    if (lines.length > 0 && lines.at(-1)?.written.index === 0) top += room.belowFirst * pixels;
    gap = 0;
    const own = Math.max(line.size * pixels, leastSize(line.font) * shorter);
    isUnbroken &&= fitsUnbroken(measured, letters / own);
    const height = heightOfLine(extent) * own * lineSpacing;
    for (const range of breakLines(measured, letters / own, shaper)) {
      lines.push({ written: one, paragraph: measured.paragraph, ...range, pixels: own, top, height });
      top += height;
    }
  }
  return { lines, height: top + room.above * pixels, isUnbroken };
}

/** Lines against the edge or the middle of the safe area that their place names. */
function placeLines(
  { lines, height }: SetBlock,
  { kind, place, align, ornament }: PlannedWords,
  safe: Rectangle,
  room: OrnamentRoom,
  pixels: number,
  { shaper }: Fonts,
): Pick<LaidWords, "lines" | "bounds" | "ornament"> {
  const isScrolling = kind === "credits";
  const { x: placeAcross, y: shareDown } = isScrolling ? { x: 0.5, y: 0 } : placeShares(place);
  const shareAcross = align === null ? placeAcross : ALIGNED_AT[align];
  const shaped = lines.map((line) => ({ line, runs: shapeLine(line, shaper) }));
  const widths = shaped.map(({ line, runs }) => seenWidth(runs) * line.pixels);
  const widest = Math.max(0, ...widths);
  const [before, beside] = [room.before * pixels, room.beside * pixels];
  const whole = widest + before + 2 * beside;
  const left = safe.x + placeAcross * (safe.width - whole);
  const top = isScrolling ? 0 : safe.y + shareDown * (safe.height - height);
  // A rule beside the words stands on the side that they are set against.
  const from = left + beside + (shareAcross === 1 ? 0 : before);
  const placed = shaped.map(({ line, runs }, i): LaidLine => {
    const box = {
      x: from + shareAcross * (widest - itemAt(widths, i)),
      y: top + line.top,
      width: itemAt(widths, i),
      height: line.height,
    };
    const { ascent, descent } = line.written.extent;
    const baseline = box.y + (line.height - (ascent + descent) * line.pixels) / 2 + ascent * line.pixels;
    let x = box.x;
    const glyphs = runs.flatMap(({ scale, run }) => {
      const at = x;
      x += run.width * line.pixels;
      return run.glyphs.map(
        (glyph): LaidGlyph => ({
          outline: glyph.outline,
          paints: glyph.paints,
          x: at + glyph.x * line.pixels,
          y: baseline + glyph.y * line.pixels,
          pixels: line.pixels * scale,
        }),
      );
    });
    return { glyphs, box, colour: line.written.line.colour, written: line.written.index };
  });
  const bounds = { x: left, y: top, width: whole, height };
  const words = { bounds, lines: placed, isAtRight: shareAcross === 1 };
  return { lines: placed, bounds, ornament: placed.length > 0 ? ornamentShapes(ornament, words, pixels) : [] };
}

const ALIGNED_AT = { left: 0, middle: 0.5, right: 1 } as const;

interface ShapedPart {
  readonly run: ShapedRun;
  readonly scale: number;
  readonly spacing: number;
}

/** The runs of a line from left to right. */
function shapeLine({ paragraph, start, end }: SetLine, shaper: Shaper): ShapedPart[] {
  const parts = paragraph.runs.flatMap((run) => {
    const from = Math.max(start, run.start);
    const to = Math.min(end, run.start + run.text.length);
    return from < to ? [{ ...run, text: paragraph.text.slice(from, to) }] : [];
  });
  return visualOrder(parts).map((part) => ({
    run: shapeRun(part, part.text, shaper),
    scale: part.scale,
    spacing: part.spacing,
  }));
}

/** In ems; the room behind the last letter is not seen, and would pull lines off their middle. */
const seenWidth = (parts: readonly ShapedPart[]): number =>
  parts.reduce((sum, { run }) => sum + run.width, 0) - (parts.at(-1)?.spacing ?? 0);

/** Moves words away from others in their way: those at the bottom upwards, the rest downwards. */
function givingWay(
  laid: LaidWords,
  { place, backing }: PlannedWords,
  others: readonly Rectangle[],
  safe: Rectangle,
): LaidWords {
  const isUpwards = placeShares(place).y === 1;
  const gap = (GAP + (backing ? BACKING_PADDING + BACKING_SOFTNESS : 0)) * laid.pixels;
  let { y } = laid.bounds;
  const ordered = [...others].sort((a, b) => (isUpwards ? b.y - a.y : a.y - b.y));
  for (const other of ordered) {
    if (!areTogether({ ...laid.bounds, y: y - gap, height: laid.bounds.height + 2 * gap }, other)) continue;
    y = isUpwards ? other.y - gap - laid.bounds.height : other.y + other.height + gap;
  }
  if (y === laid.bounds.y) return laid;
  const held = Math.min(Math.max(y, safe.y), safe.y + safe.height - laid.bounds.height);
  const by = held - laid.bounds.y;
  const bounds = { ...laid.bounds, y: held };
  return {
    ...laid,
    bounds,
    ornament: laid.ornament.map((shape) => shape.map(({ x, y }) => ({ x, y: y + by }))),
    lines: laid.lines.map(({ glyphs, box, ...line }) => ({
      ...line,
      glyphs: glyphs.map((glyph) => ({ ...glyph, y: glyph.y + by })),
      box: { ...box, y: box.y + by },
    })),
    overflows: laid.overflows || others.some((other) => areTogether(bounds, other)),
  };
}

const areTogether = (a: Rectangle, b: Rectangle): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
