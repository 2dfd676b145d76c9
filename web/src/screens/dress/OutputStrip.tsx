import { cutsSubject } from "@humming-tide/core/check";
import { type FilmPlan, filmInSize, type SeenMedia } from "@humming-tide/core/film";
import { drawFrame, imagesIn, planFrame, type Size, shapeOf } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import type { ShowDocument } from "@humming-tide/core/show";
import { frameAt } from "@humming-tide/core/time";
import { TriangleAlert } from "lucide-react";
import { memo, type ReactNode, useCallback, useDeferredValue, useEffect, useMemo, useRef } from "react";
import { filmFonts } from "../../stage/film-fonts.ts";
import { stageGrain } from "../../stage/stage-grain.ts";
import { StageImages } from "../../stage/stage-images.ts";
import { StageScratch, surfaceOf } from "../../stage/stage-surface.ts";
import { StageWords } from "../../stage/stage-words.ts";
import { useFilmDrawing } from "../../stage/use-film-drawing.ts";

/** The shapes that films are handed over in. */
const OUTPUTS: readonly Size[] = [
  { width: 1920, height: 1080 },
  { width: 1080, height: 1350 },
  { width: 1080, height: 1080 },
  { width: 1080, height: 1920 },
];
const HEIGHT = 62;

export type SeenBy = (sha256: string) => SeenMedia | undefined;

/** The sizes that a show is seen in: its own first, then the usual ones of other shapes. */
export function outputSizes({ size }: FilmPlan): Size[] {
  return [size, ...OUTPUTS.filter((other) => shapeOf(other) !== shapeOf(size))];
}

/** The film in a size; its own plan where that is its own. */
export const filmIn = (show: ShowDocument, plan: FilmPlan, seen: SeenBy, size: Size): FilmPlan =>
  shapeOf(size) === shapeOf(plan.size) ? plan : filmInSize(show, plan, { seen }, size);

interface OutputStripProps {
  show: ShowDocument;
  plan: FilmPlan;
  seen: SeenBy;
  chosen: string;
  slotIndex: number;
  onChoose: (shape: string) => void;
}

/**
 * The same slide in every output beside each other; pressing one puts it on the stage. Each is
 * planned by itself and behind what is edited, so that a long film does not hold the page up.
 */
export function OutputStrip({ show, plan, seen, chosen, slotIndex, onChoose }: OutputStripProps): ReactNode {
  const images = useRef<StageImages | null>(null);
  images.current ??= new StageImages();
  useEffect(() => () => images.current?.close(), []);
  const edited = useMemo(() => ({ show, plan }), [show, plan]);
  const behind = useDeferredValue(edited);
  return (
    <div className="flex shrink-0 items-end gap-3 border-l border-line pl-3">
      {outputSizes(plan).map((size) => (
        <OutputView
          key={shapeOf(size)}
          edited={behind}
          seen={seen}
          size={size}
          slotIndex={slotIndex}
          images={present(images.current)}
          isChosen={shapeOf(size) === chosen}
          onChoose={onChoose}
        />
      ))}
    </div>
  );
}

interface OutputViewProps {
  edited: { readonly show: ShowDocument; readonly plan: FilmPlan };
  seen: SeenBy;
  size: Size;
  slotIndex: number;
  images: StageImages;
  isChosen: boolean;
  onChoose: (shape: string) => void;
}

const OutputView = memo(function OutputView({
  edited: { show, plan },
  seen,
  size,
  slotIndex,
  images,
  isChosen,
  onChoose,
}: OutputViewProps): ReactNode {
  const film = useMemo(() => filmIn(show, plan, seen, size), [show, plan, seen, size]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const scratch = useRef(new StageScratch());
  const words = useRef(new StageWords());
  const shape = shapeOf(film.size);
  const width = Math.round((HEIGHT * film.size.width) / film.size.height);
  const slot = film.slots[slotIndex];
  const isCutOff = slot !== undefined && cutsSubject(slot, film.size);
  const draw = useCallback(
    (filmSeconds: number) => {
      const context = canvas.current?.getContext("2d", { alpha: false });
      if (!context) return;
      const plan = planFrame(film, Math.min(film.totalFrames - 1, frameAt(filmSeconds, film.rate)));
      images.preload(imagesIn(plan));
      const { width: pixelsWide, height: pixelsHigh } = context.canvas;
      context.setTransform(pixelsWide / film.size.width, 0, 0, pixelsHigh / film.size.height, 0, 0);
      const second = scratch.current.for(pixelsWide, pixelsHigh, film.size.width, film.size.height);
      drawFrame(surfaceOf(context), plan, {
        images: images.get,
        grain: stageGrain,
        words: words.current.for(pixelsWide / film.size.width),
        scratch: second,
      });
    },
    [film, images],
  );
  const sources = useCallback(() => [images, filmFonts, words.current], [images]);
  useFilmDrawing(canvas, draw, sources);
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      aria-label={`Show ${shape} on the stage${isCutOff ? "; the subject is cut off in it" : ""}`}
      onClick={() => onChoose(shape)}
      className="group flex shrink-0 flex-col items-center gap-1"
    >
      <canvas
        ref={canvas}
        width={width}
        height={HEIGHT}
        data-testid={`output-${shape}`}
        className="rounded-sm outline-offset-2 group-hover:outline group-hover:outline-line-strong group-aria-pressed:outline-2 group-aria-pressed:outline-ink"
      />
      <span className="flex items-center gap-1 text-[12px] text-soft group-aria-pressed:text-ink">
        {shape}
        {isCutOff && <TriangleAlert size={12} className="text-warning" aria-hidden />}
      </span>
    </button>
  );
});
