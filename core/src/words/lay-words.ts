import {
  type PlannedWords,
  placeShares,
  type Rectangle,
  type Size,
  safeArea,
  type WordSheet,
} from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import { breakLines, fitsUnbroken, type MeasuredParagraph, measureParagraph } from "./break-lines.ts";
import {
  BACKING_PADDING,
  BACKING_SOFTNESS,
  DEFAULT_WORDS,
  type DefaultWords,
  isHeading,
  SMALLEST_SHARE,
} from "./default-words.ts";
import type { FontFile } from "./font-files.ts";
import { divideParagraph, mainFile, neededFiles, type Paragraph, visualOrder } from "./runs.ts";
import type { FontExtent, Outline, Paint, Shaper } from "./shaper.ts";

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
}

/** Words in their place in a frame. */
export interface LaidWords {
  readonly lines: readonly LaidLine[];
  /** Around all lines; of credits, as if they began at the top of the frame. */
  readonly bounds: Rectangle;
  /** The line beside a lower third. */
  readonly rule: Rectangle | null;
  /** Size of the main letters. */
  readonly pixels: number;
  /** Set smaller than asked, so that they fit. */
  readonly isShrunk: boolean;
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
const RULE_WIDTH = 0.09;
const RULE_GAP = 0.36;

/** The font files that words need before they can be laid out. */
export function filesForWords({ files }: Fonts, sheet: WordSheet): ReadonlySet<string> {
  return new Set(sheet.flatMap(({ text, letters }) => [...neededFiles(files, text, letters.font, letters.weight)]));
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
  /** Null for an empty one. */
  readonly measured: MeasuredParagraph | null;
  /** Of the main size. */
  readonly share: number;
  readonly isHeading: boolean;
}

/** A line as it stands; places in it are pixels from the block's top. */
interface SetLine {
  readonly paragraph: Paragraph;
  readonly start: number;
  readonly end: number;
  readonly pixels: number;
  readonly top: number;
  readonly height: number;
}

function layWords(words: PlannedWords, frame: Size, fonts: Fonts): LaidWords {
  const usual = DEFAULT_WORDS[words.kind];
  const safe = safeArea(frame, "title");
  const isUpright = frame.height > frame.width;
  const wanted = usual.size * words.size * Math.min(frame.width, frame.height);
  const width = (isUpright ? Math.max(usual.width, 0.94) : usual.width) * safe.width;
  const height = usual.height * safe.height;
  const written = writtenLines(words, usual, fonts);
  const lineHeight = heightOfLine(fonts.shaper.extent(mainFile(fonts.files, words.letters.font, words.letters.weight)));
  const rule = usual.hasRule ? RULE_WIDTH + RULE_GAP : 0;
  let pixels = wanted;
  let set = setLines(written, pixels, width - rule * pixels, lineHeight, fonts.shaper);
  while (!(set.isUnbroken && set.height <= height) && pixels * SHRINK_STEP >= SMALLEST_SHARE * wanted) {
    pixels *= SHRINK_STEP;
    set = setLines(written, pixels, width - rule * pixels, lineHeight, fonts.shaper);
  }
  return {
    ...placeLines(set.lines, set.height, words, safe, rule * pixels, fonts),
    pixels,
    isShrunk: pixels < wanted,
    overflows: set.height > height,
    missing: [...new Set(written.flatMap(({ measured }) => measured?.paragraph.missing ?? []))],
  };
}

function writtenLines(words: PlannedWords, { second }: DefaultWords, { files, shaper }: Fonts): WrittenLine[] {
  const { font, weight } = words.letters;
  let isMainSet = false;
  return words.text.split("\n").map((line): WrittenLine => {
    const isHead = words.kind === "credits" && isHeading(line);
    const text = isHead ? line.trimEnd().slice(0, -1) : line;
    if (text.trim() === "") return { measured: null, share: 1, isHeading: false };
    const share = words.kind === "credits" ? (isHead ? second : 1) : isMainSet ? second : 1;
    isMainSet = true;
    const measured = measureParagraph(divideParagraph(text, font, weight, files, shaper), shaper);
    return { measured, share, isHeading: isHead };
  });
}

const heightOfLine = ({ ascent, descent }: FontExtent): number => Math.max(LEAST_LINE, ascent + descent);

/** Everything broken into lines at a size; without the empty lines at the beginning and the end. */
function setLines(
  written: readonly WrittenLine[],
  pixels: number,
  width: number,
  lineHeight: number,
  shaper: Shaper,
): { readonly lines: readonly SetLine[]; readonly height: number; readonly isUnbroken: boolean } {
  const lines: SetLine[] = [];
  let top = 0;
  let gap = 0;
  let isUnbroken = true;
  for (const { measured, share, isHeading: isHead } of written) {
    if (!measured) {
      gap += EMPTY_LINE * pixels;
      continue;
    }
    if (lines.length > 0) top += gap + (isHead ? HEADING_GAP * pixels : 0);
    gap = 0;
    const own = share * pixels;
    isUnbroken &&= fitsUnbroken(measured, width / own);
    for (const range of breakLines(measured, width / own, shaper)) {
      lines.push({ paragraph: measured.paragraph, ...range, pixels: own, top, height: lineHeight * own });
      top += lineHeight * own;
    }
  }
  return { lines, height: top, isUnbroken };
}

/** Lines against the edge or the middle of the safe area that their place names. */
function placeLines(
  lines: readonly SetLine[],
  height: number,
  { kind, place, letters }: PlannedWords,
  safe: Rectangle,
  ruleWidth: number,
  { files, shaper }: Fonts,
): Pick<LaidWords, "lines" | "bounds" | "rule"> {
  const isScrolling = kind === "credits";
  const { x: shareAcross, y: shareDown } = isScrolling ? { x: 0.5, y: 0 } : placeShares(place);
  const shaped = lines.map((line) => ({ line, runs: shapeLine(line, shaper) }));
  const widths = shaped.map(({ line, runs }) => runs.reduce((sum, { width }) => sum + width, 0) * line.pixels);
  const widest = Math.max(0, ...widths);
  const whole = widest + ruleWidth;
  const left = safe.x + shareAcross * (safe.width - whole);
  const top = isScrolling ? 0 : safe.y + shareDown * (safe.height - height);
  const from = left + (shareAcross === 1 ? 0 : ruleWidth);
  const { ascent, descent } = shaper.extent(mainFile(files, letters.font, letters.weight));
  const placed = shaped.map(({ line, runs }, i): LaidLine => {
    const box = {
      x: from + shareAcross * (widest - itemAt(widths, i)),
      y: top + line.top,
      width: itemAt(widths, i),
      height: line.height,
    };
    const baseline = box.y + (line.height - (ascent + descent) * line.pixels) / 2 + ascent * line.pixels;
    let x = box.x;
    const glyphs = runs.flatMap((run) => {
      const at = x;
      x += run.width * line.pixels;
      return run.glyphs.map(
        (glyph): LaidGlyph => ({
          outline: glyph.outline,
          paints: glyph.paints,
          x: at + glyph.x * line.pixels,
          y: baseline + glyph.y * line.pixels,
          pixels: line.pixels,
        }),
      );
    });
    return { glyphs, box };
  });
  const bounds = { x: left, y: top, width: whole, height };
  const thickness = (RULE_WIDTH / (RULE_WIDTH + RULE_GAP)) * ruleWidth;
  const rule = {
    x: shareAcross === 1 ? left + whole - thickness : left,
    y: top + 0.06 * height,
    width: thickness,
    height: 0.88 * height,
  };
  return { lines: placed, bounds, rule: ruleWidth > 0 && lines.length > 0 ? rule : null };
}

/** The runs of a line from left to right. */
function shapeLine({ paragraph, start, end }: SetLine, shaper: Shaper): ReturnType<Shaper["shape"]>[] {
  const parts = paragraph.runs.flatMap((run) => {
    const from = Math.max(start, run.start);
    const to = Math.min(end, run.start + run.text.length);
    return from < to ? [{ ...run, text: paragraph.text.slice(from, to) }] : [];
  });
  return visualOrder(parts).map(({ file, text, level }) => shaper.shape(file, text, (level & 1) === 1));
}

/** Moves words away from others in their way: those at the bottom upwards, the rest downwards. */
function givingWay(
  laid: LaidWords,
  { place, letters }: PlannedWords,
  others: readonly Rectangle[],
  safe: Rectangle,
): LaidWords {
  const isUpwards = placeShares(place).y === 1;
  const gap = (GAP + (letters.backing ? BACKING_PADDING + BACKING_SOFTNESS : 0)) * laid.pixels;
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
    rule: laid.rule && { ...laid.rule, y: laid.rule.y + by },
    lines: laid.lines.map(({ glyphs, box }) => ({
      glyphs: glyphs.map((glyph) => ({ ...glyph, y: glyph.y + by })),
      box: { ...box, y: box.y + by },
    })),
    overflows: laid.overflows || others.some((other) => areTogether(bounds, other)),
  };
}

const areTogether = (a: Rectangle, b: Rectangle): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
