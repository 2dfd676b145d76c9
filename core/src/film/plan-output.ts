import {
  entranceAt,
  NO_WORDS,
  type PictureSlot,
  type PictureTrack,
  type WordTime,
  wordAlpha,
} from "../picture/index.ts";
import { FIRST_STYLE, type FilmOutput, type Letters, type ShowDocument, type Watermark } from "../show/index.ts";
import { type FrameRate, framesPerSecond } from "../time/index.ts";
import { designWords } from "../words/index.ts";
import type { FilmFacts } from "./film-facts.ts";
import { type FilmPlan, planFilm } from "./plan-film.ts";
import { showForOutput } from "./show-for-output.ts";

/** The film of one output. Throws what `planFilm` throws. */
export function planOutput(show: ShowDocument, output: FilmOutput, facts: FilmFacts): FilmPlan {
  const plan = planFilm(showForOutput(show, output), facts);
  return withOutput(plan, output);
}

/** What an output adds to a film that is planned in its size already. */
export function withOutput(plan: FilmPlan, { watermark, loops }: Pick<FilmOutput, "watermark" | "loops">): FilmPlan {
  return {
    ...plan,
    watermark: watermark && plannedWatermark(watermark),
    ...(loops ? { fadeOut: null, loopBack: loopBack(plan, plan.rate) } : {}),
  };
}

const plannedWatermark = ({ text, place, strength }: Watermark): NonNullable<PictureTrack["watermark"]> => ({
  sheet: [designWords({ kind: "text", text, place, size: WATERMARK_SIZE }, WATERMARK_LETTERS)],
  alpha: strength,
});
const WATERMARK_LETTERS: Letters = {
  ...FIRST_STYLE.letters,
  ...{ titleSet: null, font: "Montserrat", weight: 700, colour: "#ffffff" },
};
/** Times the size of a text: to be read, and not to be looked at. */
const WATERMARK_SIZE = 0.6;

const LOOP_SECONDS = 1;

/**
 * The film's first picture as it is seen in its first frame, to dissolve into at the end: whoever
 * plays the film round and round sees no seam. Null where the film begins with a clip, which would
 * have to run before it begins.
 */
function loopBack({ slots, totalFrames }: FilmPlan, rate: FrameRate): PictureSlot | null {
  const [first, last] = [slots[0], slots.at(-1)];
  if (!first || !last || first.clip) return null;
  const room = Math.floor((totalFrames - Math.max(last.startFrame, last.transitionIn.endFrame)) / 2);
  const half = Math.floor(Math.min(LOOP_SECONDS * framesPerSecond(rate), room) / 2);
  if (half < 1) return null;
  const { start } = first.move;
  const there = first.words.times.flatMap((time, i) => (isWhollyThere(time) ? [i] : []));
  return {
    ...first,
    move: { ...first.move, start, end: start },
    beside: first.beside
      .filter(({ enters }) => enters === null)
      .map((other) => ({ ...other, move: { ...other.move, end: other.move.start } })),
    words:
      there.length < first.words.sheet.length
        ? NO_WORDS
        : {
            sheet: first.words.sheet,
            times: first.words.times.map((time) => ({
              ...time,
              startFrame: 0,
              endFrame: totalFrames + 1,
              entrance: null,
            })),
          },
    startFrame: totalFrames,
    endFrame: totalFrames + 1,
    transitionIn: { kind: "dissolve", startFrame: totalFrames - (2 * half + 1), endFrame: totalFrames },
  };
}

/** In the film's first frame. */
const isWhollyThere = (time: WordTime): boolean =>
  wordAlpha(time, 0) === 1 && !time.isScrolling && entranceAt(time.entrance, 0) === null;
