import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { counted } from "@humming-tide/core/language";
import { lastOf, valueFor } from "@humming-tide/core/presence";
import type { ShowDocument } from "@humming-tide/core/show";
import { clockText, frameRateName, framesPerSecond, timecode } from "@humming-tide/core/time";
import { GlobalFonts, type Image, loadImage, PDFDocument, type SKRSContext2D } from "@napi-rs/canvas";
import sharp from "sharp";
import { filmFontFiles } from "../fonts/film-fonts.ts";

/** A4 upright, in points. */
const PAGE = { width: 595, height: 842 };
const MARGIN = { left: 36, right: 36, top: 40, bottom: 34 };
const HEAD_HEIGHT = 74;
const NEXT_HEAD_HEIGHT = 26;
const ROW_HEIGHT = 43;
const PASSAGE_HEIGHT = 22;
const PICTURE = { width: 60, height: 34 };
/** Drawn so much finer than it is laid out: 216 dots an inch. */
const PICTURE_SCALE = 3;
const INK = "#1b2a2e";
const QUIET = "#5f6d70";
const LINE = "#c9d1d1";

/** Where the columns of a row begin; the last one ends at the margin. */
const COLUMNS = { number: 36, picture: 60, begins: 130, bar: 204, lasts: 246, picked: 288, words: 424 };

export interface CueSheetSources {
  /** The file of a drawn picture's thumbnail. */
  readonly thumbnailOf: (picture: string) => string;
}

/**
 * The film as a list to print and to read on a set: every slide with its picture, when it begins,
 * in which bar, how long it stands, how it comes in, and its words; by passages. A PDF of A4 pages.
 * Pictures that cannot be read are left blank: the list is for people, and says the rest all the
 * same.
 */
export async function cueSheet(show: ShowDocument, plan: FilmPlan, sources: CueSheetSources): Promise<Uint8Array> {
  registerFonts();
  const pages = pagesOf(show, plan);
  const document = new PDFDocument({ title: `${show.title}, cue sheet`, creator: "Humming Tide" });
  for (const [index, lines] of pages.entries()) {
    // Its own types call it the page's; it is the same context as that of a canvas.
    const context = document.beginPage(PAGE.width, PAGE.height) as unknown as SKRSContext2D;
    let top = index === 0 ? drawHead(context, show, plan) : drawNextHead(context, show);
    for (const line of lines) {
      if (line.kind === "passage") drawPassage(context, line.name, top);
      else await drawSlot(context, plan, line.slot, top, sources);
      top += line.kind === "passage" ? PASSAGE_HEIGHT : ROW_HEIGHT;
    }
    drawFoot(context, index + 1, pages.length);
    document.endPage();
  }
  return document.close();
}

type Line = { readonly kind: "passage"; readonly name: string } | { readonly kind: "slot"; readonly slot: FilmSlot };

/** Lines of each page; a passage's name never stands alone at the foot. */
function pagesOf(show: ShowDocument, plan: FilmPlan): Line[][] {
  const passageOf = new Map(show.slides.map(({ id, passageId }) => [id, passageId]));
  const names = new Map(show.passages.map(({ id, name }, index) => [id, name || `Passage ${index + 1}`]));
  const hasNames = show.passages.some(({ name }) => name !== "");
  const pages: Line[][] = [[]];
  const bottom = PAGE.height - MARGIN.bottom - 16;
  let top = MARGIN.top + HEAD_HEIGHT;
  let before: string | undefined;
  for (const slot of plan.slots) {
    const passage = passageOf.get(slot.slideId);
    const begins = hasNames && slot.round === 0 && passage !== undefined && passage !== before;
    if (slot.round === 0) before = passage;
    const height = ROW_HEIGHT + (begins ? PASSAGE_HEIGHT : 0);
    if (top + height > bottom) {
      pages.push([]);
      top = MARGIN.top + NEXT_HEAD_HEIGHT;
    }
    if (begins) lastOf(pages).push({ kind: "passage", name: valueFor(names, passage) });
    lastOf(pages).push({ kind: "slot", slot });
    top += height;
  }
  return pages;
}

function drawHead(context: SKRSContext2D, show: ShowDocument, plan: FilmPlan): number {
  const { left, top } = MARGIN;
  write(context, show.title || "Untitled", left, top + 16, { size: 19, bold: true, width: 520 });
  const facts = [show.event, show.date ?? "", show.client].filter((fact) => fact !== "");
  const seconds = plan.totalFrames / framesPerSecond(plan.rate);
  const film = [
    `${clockText(seconds)} at ${frameRateName(plan.rate)} frames a second`,
    counted(plan.slots.length, "slide"),
    ...show.songs.map(({ fileName }) => fileName),
  ];
  write(context, facts.join(", "), left, top + 32, { size: 9, width: 520 });
  write(context, film.join(", "), left, top + 45, { size: 9, colour: QUIET, width: 520 });
  drawColumns(context, top + 66);
  return top + HEAD_HEIGHT;
}

function drawNextHead(context: SKRSContext2D, show: ShowDocument): number {
  write(context, show.title, MARGIN.left, MARGIN.top, { size: 8, colour: QUIET, width: 400 });
  drawColumns(context, MARGIN.top + 18);
  return MARGIN.top + NEXT_HEAD_HEIGHT;
}

function drawColumns(context: SKRSContext2D, base: number): void {
  const heads = { begins: "Begins", bar: "Bar", lasts: "Lasts", picked: "Picture, how it comes in", words: "Words" };
  for (const [name, text] of Object.entries(heads))
    write(context, text, COLUMNS[name as keyof typeof heads], base, { size: 7.5, colour: QUIET });
  rule(context, base + 4, INK);
}

function drawPassage(context: SKRSContext2D, name: string, top: number): void {
  write(context, name, MARGIN.left, top + 15, { size: 10.5, bold: true, width: 520 });
  rule(context, top + PASSAGE_HEIGHT - 1, LINE);
}

async function drawSlot(
  context: SKRSContext2D,
  plan: FilmPlan,
  slot: FilmSlot,
  top: number,
  sources: CueSheetSources,
): Promise<void> {
  const [line, below] = [top + 17, top + 29];
  write(context, String(slot.index + 1), COLUMNS.number, line, { size: 9, colour: QUIET });
  const picture = slot.picture === null ? null : await thumbnail(sources.thumbnailOf(slot.picture));
  if (picture) context.drawImage(picture, COLUMNS.picture, top + 4, PICTURE.width, PICTURE.height);
  else {
    context.strokeStyle = LINE;
    context.lineWidth = 0.6;
    context.strokeRect(COLUMNS.picture, top + 4, PICTURE.width, PICTURE.height);
    if (slot.picture === null) write(context, "card", COLUMNS.picture + 21, top + 24, { size: 8, colour: QUIET });
  }
  write(context, timecode(slot.startFrame, plan.rate), COLUMNS.begins, line, { size: 9.5, bold: true });
  write(context, `frame ${slot.startFrame}`, COLUMNS.begins, below, { size: 7.5, colour: QUIET });
  const bar = barOf(plan, slot);
  if (bar) write(context, bar, COLUMNS.bar, line, { size: 9.5 });
  const seconds = (slot.endFrame - slot.startFrame) / framesPerSecond(plan.rate);
  write(context, `${seconds.toFixed(1)} s`, COLUMNS.lasts, line, { size: 9.5 });
  write(context, slot.name, COLUMNS.picked, line, { size: 9, width: COLUMNS.words - COLUMNS.picked - 8 });
  write(context, changeText(plan, slot), COLUMNS.picked, below, {
    size: 7.5,
    colour: QUIET,
    width: COLUMNS.words - COLUMNS.picked - 8,
  });
  const words = slot.words.sheet.map(({ text }) => text.trim().replace(/\s*\n\s*/g, ", ")).join(" / ");
  const width = PAGE.width - MARGIN.right - COLUMNS.words;
  const [first, second] = twoLines(context, words, width);
  write(context, first, COLUMNS.words, line, { size: 8.5, width });
  write(context, second, COLUMNS.words, below, { size: 8.5, width });
  rule(context, top + ROW_HEIGHT - 0.5, LINE);
}

/**
 * "12", or "12.3" where it does not begin on the bar's first beat; empty where there is no grid.
 */
function barOf({ music: { grid } }: FilmPlan, { landing, index }: FilmSlot): string {
  const seconds = landing?.seconds ?? (index === 0 ? 0 : null);
  if (seconds === null || grid.beats.length === 0) return "";
  let bar = 0;
  let beat = 0;
  for (const { seconds: at, position } of grid.beats) {
    if (at > seconds + 0.03) break;
    if (position === 1) {
      bar++;
      beat = 1;
    } else beat++;
  }
  if (bar === 0) return "";
  return beat === 1 ? String(bar) : `${bar}.${beat}`;
}

function changeText(
  plan: FilmPlan,
  { transitionIn: { kind, startFrame, endFrame }, landing, index }: FilmSlot,
): string {
  if (index === 0) return "begins the film";
  const length = (endFrame - startFrame) / framesPerSecond(plan.rate);
  const how = kind === "cut" ? "cut" : `${kind.replace("-", " ")}, ${length.toFixed(1)} s`;
  return landing ? `${how}, on a ${landing.kind}` : how;
}

function drawFoot(context: SKRSContext2D, page: number, pages: number): void {
  const base = PAGE.height - MARGIN.bottom + 6;
  write(context, `Page ${page} of ${pages}`, MARGIN.left, base, { size: 7.5, colour: QUIET });
  write(context, "Begins: timecode of the film. Bar: 12.3 is the third beat of bar 12.", 240, base, {
    size: 7.5,
    colour: QUIET,
  });
}

interface Writing {
  readonly size: number;
  readonly bold?: boolean;
  readonly colour?: string;
  /** What is longer ends with dots. */
  readonly width?: number;
}

function write(
  context: SKRSContext2D,
  text: string,
  x: number,
  base: number,
  { size, bold = false, colour = INK, width }: Writing,
): void {
  if (text === "") return;
  context.font = fontOf(size, bold);
  context.fillStyle = colour;
  context.fillText(width === undefined ? text : shortened(context, text, width), x, base);
}

function shortened(context: SKRSContext2D, text: string, width: number): string {
  if (context.measureText(text).width <= width) return text;
  const letters = [...text];
  let [low, high] = [0, letters.length];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (context.measureText(`${letters.slice(0, middle).join("")}…`).width <= width) low = middle;
    else high = middle - 1;
  }
  return `${letters.slice(0, low).join("")}…`;
}

/** Broken at a space; the second line takes what is left and is shortened when it is drawn. */
function twoLines(context: SKRSContext2D, text: string, width: number): [string, string] {
  context.font = fontOf(8.5, false);
  const words = text.split(" ");
  let count = words.length;
  while (count > 1 && context.measureText(words.slice(0, count).join(" ")).width > width) count--;
  return [words.slice(0, count).join(" "), words.slice(count).join(" ")];
}

function rule(context: SKRSContext2D, y: number, colour: string): void {
  context.fillStyle = colour;
  context.fillRect(MARGIN.left, y, PAGE.width - MARGIN.left - MARGIN.right, 0.6);
}

/** As a film shows it at rest, cut to the row. */
async function thumbnail(place: string): Promise<Image | null> {
  try {
    const jpeg = await sharp(place)
      .resize(PICTURE.width * PICTURE_SCALE, PICTURE.height * PICTURE_SCALE, { fit: "cover", position: "attention" })
      .flatten({ background: "#ffffff" })
      .jpeg({ quality: 82 })
      .toBuffer();
    return await loadImage(jpeg);
  } catch {
    return null;
  }
}

const FAMILIES = ["Noto Sans", "Noto Sans Hebrew", "Noto Sans Arabic"];
let aliases: readonly string[] | null = null;

/**
 * Each file of the fonts for lists under a name of its own: what one has not, the next one is asked
 * for.
 */
function registerFonts(): void {
  if (aliases) return;
  const names: string[] = [];
  for (const file of filmFontFiles().filter(({ family }) => FAMILIES.includes(family))) {
    const alias = `List ${file.name.replace(/-(400|700)-normal\.woff$/, "")}`;
    if (GlobalFonts.registerFromPath(file.path, alias) && !names.includes(alias)) names.push(alias);
  }
  // Latin letters come first: they are nearly all that is written.
  aliases = names.sort((a, b) => Number(b.endsWith("-latin")) - Number(a.endsWith("-latin")));
}

const fontOf = (size: number, bold: boolean): string =>
  `${bold ? 700 : 400} ${size}px ${(aliases ?? []).map((name) => `"${name}"`).join(", ")}`;
