import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { drawFrame, type FramePlan, imagesIn, type Placement, planFrame } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import type { backingFor, LaidWords } from "@humming-tide/core/words";
import { useEffect, useState } from "react";
import { filmFonts } from "../../stage/film-fonts.ts";
import { stageGrain } from "../../stage/stage-grain.ts";
import { StageImages } from "../../stage/stage-images.ts";
import { StageScratch, surfaceOf } from "../../stage/stage-surface.ts";
import { clearCanvas } from "../../stage/stage-words.ts";

/** How well words of a slide can be read, and how they came out. */
export interface Legibility extends Pick<LaidWords, "isShrunk" | "raised" | "overflows" | "missing"> {
  readonly contrast: number;
  readonly wanted: number;
  /** Where that is too little: a ground behind them that would be enough. */
  readonly backing: ReturnType<typeof backingFor> | null;
}

/** Small enough to be quick, large enough that letters have surroundings. */
const WIDTH = 480;
const QUIET_MS = 250;
/**
 * Pictures move by a few hundredths of the frame a second: between two frames so far apart little
 * can happen.
 */
const EVERY_SECONDS = 0.5;
const MOST_FRAMES = 13;
/** A backing is found for so many of the worst frames. */
const BACKED_FRAMES = 3;

/**
 * Measures words against the picture behind them over the whole time that they are seen: in their
 * first frame, their last one and every half second between, thirteen in all at most. One entry for
 * each of the slot's sheet; empty until pictures and fonts are there.
 */
export function useLegibility(film: FilmPlan, slot: FilmSlot): readonly Legibility[] {
  const [found, setFound] = useState<{ readonly key: object; readonly results: readonly Legibility[] } | null>(null);
  const [images] = useState(() => new StageImages());
  useEffect(() => () => images.close(), [images]);
  useEffect(() => {
    if (slot.words.sheet.length === 0) return;
    let timer: ReturnType<typeof setTimeout>;
    let asked = 0;
    const look = async (): Promise<void> => {
      const own = ++asked;
      const results = await measure(film, slot, images, () => own === asked);
      if (results && own === asked) setFound({ key: slot.words, results });
    };
    const soon = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => void look(), QUIET_MS);
    };
    soon();
    images.addEventListener("arrived", soon);
    filmFonts.addEventListener("arrived", soon);
    return () => {
      asked++;
      clearTimeout(timer);
      images.removeEventListener("arrived", soon);
      filmFonts.removeEventListener("arrived", soon);
    };
  }, [film, slot, images]);
  return found?.key === slot.words ? found.results : [];
}

interface Measured {
  readonly behind: Uint8ClampedArray;
  readonly around: Uint8ClampedArray;
  readonly colour: string;
  readonly contrast: number;
}

/** The lines of each colour by themselves. */
function lettersByColour(laid: LaidWords): { readonly colour: string; readonly laid: LaidWords }[] {
  return [...new Set(laid.lines.map(({ colour }) => colour))].map((colour) => ({
    colour,
    laid: { ...laid, lines: laid.lines.filter((line) => line.colour === colour), ornament: [] },
  }));
}

/** Lets the page answer between two frames: all of them at once would hold it up. */
const pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

/** Null while something is still missing, or when nobody wants to know any more. */
async function measure(
  film: FilmPlan,
  slot: FilmSlot,
  images: StageImages,
  isWanted: () => boolean,
): Promise<Legibility[] | null> {
  const { sheet, times } = slot.words;
  const { room, fonts } = filmFonts;
  filmFonts.preload(sheet);
  if (!room || !fonts) return null;
  const laid = room.laySheet(sheet, film.size, fonts);
  if (!laid) return null;
  const scale = WIDTH / film.size.width;
  const size = { width: WIDTH, height: Math.round(film.size.height * scale) };
  const placement: Placement = { scale, x: 0, y: 0 };
  const scratch = new StageScratch().for(size.width, size.height, film.size.width, film.size.height);
  const results: Legibility[] = [];
  for (const [index, words] of sheet.entries()) {
    const own = itemAt(laid, index);
    const { startFrame, endFrame } = itemAt(times, index);
    const masks = lettersByColour(own).map((letters) => {
      const around = clearCanvas(size.width, size.height);
      room.drawLetterSurroundings(around.surface, letters.laid, placement);
      return { colour: letters.colour, around: pixelsOf(around) };
    });
    let contrast = 21;
    let worst: Measured[] = [];
    for (const frame of framesToMeasure(startFrame, endFrame, film.rate)) {
      const plan = withoutWords(planFrame(film, Math.max(0, Math.min(film.totalFrames - 1, frame))));
      images.preload(imagesIn(plan));
      if (imagesIn(plan).some((name) => !images.get(name))) return null;
      const behind = clearCanvas(size.width, size.height);
      behind.context.setTransform(scale, 0, 0, scale, 0, 0);
      drawFrame(surfaceOf(behind.context), plan, { images: images.get, words: () => null, grain: stageGrain, scratch });
      behind.context.setTransform(1, 0, 0, 1, 0, 0);
      room.drawBehindLetters(behind, own, words, placement, clearCanvas);
      await pause();
      if (!isWanted()) return null;
      const pixels = pixelsOf(behind);
      for (const { colour, around } of masks) {
        const here = room.letterContrast(colour, pixels, around);
        contrast = Math.min(contrast, here);
        worst.push({ behind: pixels, around, colour, contrast: here });
      }
      worst = worst.sort((a, b) => a.contrast - b.contrast).slice(0, BACKED_FRAMES);
      await pause();
      if (!isWanted()) return null;
    }
    const wanted = room.wantedContrast(own.pixels, film.size);
    // A ground can be right for one colour only: that which is the worst to read.
    const poorest = worst[0]?.colour ?? words.colour;
    const alike = worst.filter(({ colour }) => colour === poorest);
    const backing = contrast < wanted ? room.backingFor(poorest, alike, wanted) : null;
    const { isShrunk, raised, overflows, missing } = own;
    results.push({ isShrunk, raised, overflows, missing, contrast, wanted, backing });
  }
  return results;
}

/** From the first (inclusive) to the end (exclusive), evenly. */
function framesToMeasure(startFrame: number, endFrame: number, { num, den }: FilmPlan["rate"]): Set<number> {
  const last = Math.max(startFrame, endFrame - 1);
  const seconds = ((last - startFrame) * den) / num;
  const steps = Math.max(2, Math.min(MOST_FRAMES - 1, Math.ceil(seconds / EVERY_SECONDS)));
  return new Set(
    Array.from({ length: steps + 1 }, (_, i) => Math.round(startFrame + (i / steps) * (last - startFrame))),
  );
}

const withoutWords = (plan: FramePlan): FramePlan => ({
  ...plan,
  layers: plan.layers.map((layer) =>
    layer.kind === "scene" ? { ...layer, parts: layer.parts.filter(({ kind }) => kind !== "words") } : layer,
  ),
});

const pixelsOf = ({ context, width, height }: ReturnType<typeof clearCanvas>): Uint8ClampedArray =>
  context.getImageData(0, 0, width, height).data;
