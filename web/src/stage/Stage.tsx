import type { FilmPlan } from "@humming-tide/core/film";
import {
  clipAt,
  clipsIn,
  drawFrame,
  imagesBetween,
  planFrame,
  slotIndexAt,
  type WordSheet,
} from "@humming-tide/core/picture";
import { frameAt } from "@humming-tide/core/time";
import { type ReactNode, type RefObject, useCallback, useEffect, useRef } from "react";
import { useAppSelector } from "../store/store.ts";
import { filmFonts } from "./film-fonts.ts";
import { usePlayer } from "./player-context.tsx";
import { type ShownClip, StageClips } from "./stage-clips.ts";
import { stageGrain } from "./stage-grain.ts";
import { StageImages } from "./stage-images.ts";
import { StageScratch, surfaceOf } from "./stage-surface.ts";
import { StageWords } from "./stage-words.ts";
import { useFilmDrawing } from "./use-film-drawing.ts";

/** Pictures are fetched this far ahead of the playhead. */
const AHEAD_SECONDS = 8;
/** So many images at most: a layout of six has as many at once. */
const MOST_AHEAD = 12;
/**
 * A draft is drawn with a quarter of the pixels: on a slow machine it plays where full quality
 * would stutter.
 */
const DRAFT_SCALE = 0.5;

/**
 * The film itself, drawn by the same code as the export, on neutral grey so that colours are judged
 * fairly. Children lie over the picture, just as large as it is.
 */
export function Stage({ plan, children }: { plan: FilmPlan; children?: ReactNode }): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  useStageDrawing(canvas, plan);

  return (
    <div className="flex h-full w-full items-center justify-center bg-stage [container-type:size]">
      <div
        className="relative overflow-hidden"
        style={{
          aspectRatio: `${plan.size.width} / ${plan.size.height}`,
          width: `min(100cqw, ${(100 * plan.size.width) / plan.size.height}cqh)`,
        }}
      >
        <canvas
          ref={canvas}
          data-testid="stage"
          aria-label="The film at the playhead"
          role="img"
          className="block size-full"
        />
        {children}
      </div>
    </div>
  );
}

/** Draws the film on a canvas as long as the page stands, and fetches ahead what it will need. */
function useStageDrawing(canvas: RefObject<HTMLCanvasElement | null>, plan: FilmPlan): void {
  const images = useRef<StageImages | null>(null);
  const clips = useRef<StageClips | null>(null);
  const scratch = useRef(new StageScratch());
  const words = useRef(new StageWords());
  const player = usePlayer();
  const isDraft = useAppSelector((state) => state.view.isDraft);

  const draw = useCallback(
    (filmSeconds: number) => {
      const target = canvas.current;
      const source = images.current;
      const context = target?.getContext("2d", { alpha: false });
      if (!target || !source || !context) return;
      fitCanvas(target, plan, isDraft ? DRAFT_SCALE : 1);
      const frame = Math.min(plan.totalFrames - 1, frameAt(filmSeconds, plan.rate));
      const ahead = frame + Math.round((AHEAD_SECONDS * plan.rate.num) / plan.rate.den);
      source.preload(imagesBetween(plan, frame, ahead).slice(0, MOST_AHEAD));
      const { width, height } = plan.size;
      context.setTransform(target.width / width, 0, 0, target.height / height, 0, 0);
      const second = scratch.current.for(target.width, target.height, width, height);
      const drawn = planFrame(plan, frame);
      const films = clips.current;
      films?.preload(clipsIn(drawn), clipsComing(plan, frame), {
        isPlaying: player.state === "playing",
        speed: player.wish.speed,
        framesPerSecond: plan.rate.num / plan.rate.den,
      });
      drawFrame(surfaceOf(context), drawn, {
        images: (name, clip) => (clip && films?.get(clip, name.look)) ?? source.get(name),
        grain: stageGrain,
        words: words.current.for(target.width / width),
        scratch: second,
      });
      words.current.ahead(sheetsComing(plan, frame, ahead), plan.size);
      target.dataset["frame"] = String(frame);
    },
    [canvas, plan, isDraft, player],
  );
  useEffect(() => {
    const source = new StageImages();
    images.current = source;
    const films = new StageClips();
    clips.current = films;
    return () => {
      source.close();
      films.close();
    };
  }, []);
  const sources = useCallback(() => [images.current, clips.current, filmFonts, words.current], []);
  useFilmDrawing(canvas, draw, sources);
}

/** The words of slots that are seen between two frames. */
const sheetsComing = (plan: FilmPlan, from: number, to: number): WordSheet[] =>
  plan.slots
    .slice(slotIndexAt(plan.slots, from), slotIndexAt(plan.slots, to) + 1)
    .map(({ words }) => words.sheet)
    .filter((sheet) => sheet.length > 0);

/** The clip of the next slot, where it begins to be seen, while it is not seen yet. */
function clipsComing(plan: FilmPlan, frame: number): ShownClip[] {
  const next = plan.slots[slotIndexAt(plan.slots, frame) + 1];
  if (!next?.clip || next.picture === null || frame >= next.transitionIn.startFrame) return [];
  const first = Math.min(next.startFrame, next.transitionIn.startFrame);
  const image = { picture: next.picture, of: "picture", look: next.look } as const;
  return [{ image, clip: clipAt(next.clip, next.index, first) }];
}

function fitCanvas(canvas: HTMLCanvasElement, plan: FilmPlan, scale: number): void {
  const width = Math.max(2, Math.min(plan.size.width, Math.round(canvas.clientWidth * devicePixelRatio * scale)));
  const height = Math.max(2, Math.round((width * plan.size.height) / plan.size.width));
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
}
