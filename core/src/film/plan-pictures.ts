import { HummingTideError } from "../failure/index.ts";
import type { Grid } from "../grid/index.ts";
import {
  chosenDirection,
  coveringFrame,
  coversFrame,
  drawnPicture,
  drawnStyles,
  type Ground,
  type MoveDirection,
  type PictureSlot,
  type PlannedClip,
  type PlannedMove,
  type PlannedTransition,
  placedPicture,
  placeTransitions,
  restView,
  ruledViews,
  type Size,
  type Subject,
  shapeOf,
  subjectAt,
  turnedSize,
  turnSubject,
} from "../picture/index.ts";
import { type Fill, type ShowDocument, type Slide, type Style, styleOf } from "../show/index.ts";
import { type FrameRate, framesPerSecond } from "../time/index.ts";
import { clipMaterial } from "./clip-material.ts";
import type { FilmFacts, SeenMedia } from "./film-facts.ts";
import { lengthInSeconds } from "./length-in-seconds.ts";
import { planWords } from "./plan-words.ts";

/** A slide in its place, before anything is known about its look. */
export interface LaidSlide {
  readonly slide: Slide;
  readonly round: number;
  readonly startFrame: number;
  /** Exclusive. */
  readonly endFrame: number;
  /** Of the musical event that it lands on; null for the first. */
  readonly landingSeconds: number | null;
}

export interface PlannedPicture extends PictureSlot {
  /** As it is drawn, after all turning. */
  readonly pictureSize: Size;
  /** The transition into it is shorter than asked, so that three pictures are never seen at once. */
  readonly isTransitionShortened: boolean;
}

/** What the music does while a slide stands: moves may follow it. */
export interface MusicalMoments {
  readonly grid: Pick<Grid, "beats">;
  /** With strength 0 to 1, in order. */
  readonly accents: readonly { readonly seconds: number; readonly strength: number }[];
}

/**
 * Framing, move and transition of every slide in its place, from its style and what was found in its picture. What is drawn by lot follows
 * from the show's seed and the slide's id, so it stays when other slides come and go. Throws `missing-picture`.
 */
export function planPictures(
  show: ShowDocument,
  laid: readonly LaidSlide[],
  facts: Pick<FilmFacts, "seen">,
  moments: MusicalMoments,
): PlannedPicture[] {
  const rate = show.frameRate;
  const styles = laid.map(({ slide }) => styleOf(show, slide));
  const drawn = drawnStyles(
    laid.slice(1).map(({ slide, round }, i) => ({ wish: styles[i + 1]!.transition, name: nameOf(slide, round) })),
    show.seed,
  );
  const requests = laid.slice(1).map(({ landingSeconds }, i) => {
    const wish = styles[i + 1]!.transition;
    return {
      style: drawn[i]!,
      seconds: wish.kind === "cut" ? 0 : lengthInSeconds(wish.length, landingSeconds ?? 0, moments.grid.beats),
    };
  });
  const starts = [...laid.map(({ startFrame }) => startFrame), laid.at(-1)!.endFrame];
  const transitions: PlannedTransition[] = [
    { kind: "cut", startFrame: 0, endFrame: 0 },
    ...placeTransitions(starts, requests, rate, show.transitionLanding.point),
  ];
  const framer = new Framer(show, facts, laid);
  return laid.map(({ slide, round, startFrame, endFrame }, i) => {
    const transitionIn = transitions[i]!;
    const next = transitions[i + 1];
    // A picture is seen from where it comes in to where the next one has replaced it.
    const seen = {
      startFrame: Math.min(transitionIn.startFrame, startFrame),
      endFrame: Math.max(next?.endFrame ?? endFrame, endFrame),
    };
    const framed = framer.frame(slide, nameOf(slide, round), styles[i]!, seen, moments);
    const standing = {
      startFrame: i === 0 ? 0 : Math.max(startFrame, transitionIn.endFrame),
      endFrame: Math.min(endFrame, next?.startFrame ?? endFrame),
    };
    const words = planWords(slide, styles[i]!, { seen, standing, isLast: !next }, moments.grid.beats, rate);
    const clip = framer.clip(slide, { startFrame, endFrame }, seen.startFrame, moments);
    const asked = requests[i - 1];
    const askedFrames = asked && asked.style.kind !== "cut" ? longestOdd(asked.seconds * framesPerSecond(rate)) : 0;
    const isTransitionShortened = transitionIn.endFrame - transitionIn.startFrame < askedFrames;
    return { ...framed, words, clip, startFrame, endFrame, transitionIn, isTransitionShortened };
  });
}

/** Transitions have an odd number of frames, so that one is their middle; fewer than three are a cut. */
function longestOdd(frames: number): number {
  const odd = 2 * Math.floor((frames - 1) / 2) + 1;
  return odd >= 3 ? odd : 0;
}

/** A picture that comes again in a later round draws another lot. */
const nameOf = (slide: Slide, round: number): string => (round === 0 ? slide.id : `${slide.id} ${round}`);

type SeenFrames = Pick<PlannedMove, "startFrame" | "endFrame">;

class Framer {
  readonly #show: ShowDocument;
  readonly #facts: Pick<FilmFacts, "seen">;
  readonly #shape: string;
  readonly #laid: readonly LaidSlide[];
  #before: MoveDirection | null = null;

  constructor(show: ShowDocument, facts: Pick<FilmFacts, "seen">, laid: readonly LaidSlide[]) {
    this.#show = show;
    this.#facts = facts;
    this.#laid = laid;
    this.#shape = shapeOf(show.size);
  }

  frame(
    slide: Slide,
    name: string,
    style: Style,
    seen: SeenFrames,
    moments: MusicalMoments,
  ): Pick<PlannedPicture, "picture" | "pictureSize" | "move" | "ground" | "subject"> {
    const { size: frame } = this.#show;
    if (slide.sha256 === null) return this.#card(slide, style, seen);
    const stored = this.#stored(slide);
    const pictureSize = turnedSize(stored, slide.turn);
    const subject = slide.subject
      ? subjectAt(slide.subject)
      : stored.subject
        ? turnSubject(stored.subject, slide.turn)
        : null;
    // A clip moves by itself: the rule leaves it where it is, and only what a person wishes moves it.
    const wish =
      stored.durationSeconds !== undefined && style.move.kind === "rule"
        ? { ...style, move: { ...style.move, kind: "still" as const } }
        : style;
    const { move, direction } = this.#move(slide, name, wish, seen, pictureSize, subject, moments);
    this.#before = direction;
    const picture = drawnPicture(slide.sha256, slide.turn);
    const covers = coversFrame(move.start, frame) && coversFrame(move.end, frame);
    return {
      picture,
      pictureSize,
      move,
      ground: covers ? null : this.#ground(style.fill, this.#blurOf(slide)),
      subject: subject?.point ?? MIDDLE,
    };
  }

  #stored({ sha256, fileName }: Slide): SeenMedia {
    const stored = sha256 === null ? undefined : this.#facts.seen(sha256);
    if (stored) return stored;
    throw new HummingTideError(
      "missing-picture",
      `The picture "${fileName}" of a slide is missing from the data folder.`,
    );
  }

  /** A card has a ground only. Where its fill would be made of its own picture, that of a neighbour stands in: of the next slide that has one, else of the one before. */
  #card(
    card: Slide,
    { fill }: Style,
    { startFrame, endFrame }: SeenFrames,
  ): Pick<PlannedPicture, "picture" | "pictureSize" | "move" | "ground" | "subject"> {
    const { size: frame } = this.#show;
    this.#before = null;
    const at = this.#laid.findIndex(({ slide }) => slide === card);
    const hasPicture = ({ slide }: LaidSlide): boolean => slide.sha256 !== null;
    const neighbour = this.#laid.slice(at).find(hasPicture) ?? this.#laid.slice(0, at).findLast(hasPicture);
    const whole = { x: 0, y: 0, ...frame };
    const own = (neighbour && this.#blurOf(neighbour.slide)) ?? NO_GROUND;
    return {
      picture: null,
      pictureSize: frame,
      move: { start: whole, end: whole, startFrame, endFrame: endFrame - 1, eased: false },
      ground: this.#ground(fill, own),
      subject: MIDDLE,
    };
  }

  #blurOf(slide: Slide): Ground {
    const { size: frame } = this.#show;
    const target = coveringFrame(turnedSize(this.#stored(slide), slide.turn), frame);
    return { kind: "image", picture: drawnPicture(slide.sha256!, slide.turn), of: "fill", target };
  }

  /**
   * What is shown of a clip; null for a picture. A moment falls on the strongest accent of the slot that its material can reach. Else the clip begins with
   * what it has beside its slot's length, so that it is under way while it comes in; before and behind its material it stands still.
   */
  clip(slide: Slide, slot: SeenFrames, firstFrame: number, { accents }: MusicalMoments): PlannedClip | null {
    const stored = slide.sha256 === null ? null : this.#stored(slide);
    if (stored?.durationSeconds === undefined) return null;
    const { inSeconds, outSeconds, momentSeconds, speed } = clipMaterial(slide.clip, stored.durationSeconds);
    const fps = framesPerSecond(this.#show.frameRate);
    const [from, to] = [slot.startFrame / fps, slot.endFrame / fps];
    let startSeconds =
      inSeconds +
      speed * Math.max(0, Math.min(from - firstFrame / fps, (outSeconds - inSeconds) / speed - (to - from)));
    if (momentSeconds !== null) {
      const first = Math.max(from, to - (outSeconds - momentSeconds) / speed);
      const last = Math.min(to, from + (momentSeconds - inSeconds) / speed);
      const reached = accents.filter(({ seconds }) => seconds >= first && seconds <= last);
      const accent = reached.reduce((best, one) => (one.strength > best.strength ? one : best), NO_ACCENT);
      if (accent !== NO_ACCENT) startSeconds = momentSeconds - (accent.seconds - from) * speed;
    }
    return {
      startFrame: slot.startFrame,
      startSeconds,
      secondsPerFrame: speed / fps,
      firstSeconds: inSeconds,
      // The frame that begins at the out is not shown any more.
      lastSeconds: Math.max(inSeconds, outSeconds - OUT_MARGIN_SECONDS),
      size: decodedSize(turnedSize(stored, slide.turn)),
    };
  }

  #move(
    slide: Slide,
    name: string,
    style: Style,
    seen: SeenFrames,
    picture: Size,
    subject: Subject | null,
    moments: MusicalMoments,
  ): { move: PlannedMove; direction: MoveDirection | null } {
    const { size: frame, standsStill, frameRate, seed } = this.#show;
    const own = slide.views.find(({ shape }) => shape === this.#shape);
    const rest = restView(picture, frame, subject, style.fill);
    const timing = style.move.withMusic
      ? (musicalTiming(seen, moments, frameRate) ?? steadyTiming(seen))
      : steadyTiming(seen);
    const between = (start: typeof rest, end: typeof rest): PlannedMove => ({
      start: placedPicture(start, picture, frame),
      end: placedPicture(standsStill ? start : end, picture, frame),
      ...timing,
    });
    if (own) return { move: between(own.start, own.end), direction: null };
    const direction = standsStill ? null : chosenDirection(style.move, seed, name, this.#before, rest, picture, frame);
    if (!direction) return { move: between(rest, rest), direction };
    const seconds = (timing.endFrame - timing.startFrame) / framesPerSecond(frameRate);
    const { strength } = style.move;
    const { start, end } = ruledViews({ picture, frame, rest, subject, direction, strength, seconds });
    return { move: between(start, end), direction };
  }

  /** Of a fill; a blurred copy where another picture is not there any more. */
  #ground(fill: Fill, blur: Ground): Ground {
    const { size: frame } = this.#show;
    if (fill.kind === "colour") return { kind: "colour", colour: fill.colour };
    if (fill.kind === "picture") {
      const other = this.#facts.seen(fill.sha256);
      if (other) {
        return { kind: "image", picture: fill.sha256, of: "picture", target: coveringFrame(other, frame) };
      }
    }
    return blur;
  }
}

const MIDDLE = { x: 0.5, y: 0.5 };
const NO_GROUND: Ground = { kind: "colour", colour: "#000000" };

const NO_ACCENT = { seconds: 0, strength: -1 };
const OUT_MARGIN_SECONDS = 1e-3;
/** As large as pictures are prepared: enough to come a little nearer in a 1080p film. */
const LARGEST_CLIP_PIXELS = 2400;

function decodedSize({ width, height }: Size): Size {
  const scale = Math.min(1, LARGEST_CLIP_PIXELS / Math.max(width, height));
  const even = (length: number): number => Math.max(2, 2 * Math.round((length * scale) / 2));
  return { width: even(width), height: even(height) };
}

/** Always under way while the picture is seen. */
const steadyTiming = ({
  startFrame,
  endFrame,
}: SeenFrames): Pick<PlannedMove, "startFrame" | "endFrame" | "eased"> => ({
  startFrame,
  endFrame: endFrame - 1,
  eased: false,
});

/** A move that follows the music needs this long to be one. */
const SHORTEST_RISE_SECONDS = 0.8;

/** Arrives on the strongest accent in the later part of a slide, and sets off at the strongest one well before it or with the slide. */
function musicalTiming(
  { startFrame, endFrame }: SeenFrames,
  { accents }: MusicalMoments,
  rate: FrameRate,
): Pick<PlannedMove, "startFrame" | "endFrame" | "eased"> | null {
  const fps = framesPerSecond(rate);
  const [from, to] = [startFrame / fps, endFrame / fps];
  const arrivals = accents.filter(
    ({ seconds }) =>
      seconds > Math.max(from + SHORTEST_RISE_SECONDS, from + 0.4 * (to - from)) && seconds < to - 1 / fps,
  );
  if (arrivals.length === 0) return null;
  const arrival = arrivals.reduce((best, accent) => (accent.strength > best.strength ? accent : best));
  const departures = accents.filter(
    ({ seconds }) => seconds > from && seconds <= arrival.seconds - Math.max(SHORTEST_RISE_SECONDS, 0.4 * (to - from)),
  );
  const departure = departures.reduce((best, accent) => (accent.strength > best.strength ? accent : best), {
    seconds: from,
    strength: -1,
  });
  return {
    startFrame: Math.round(departure.seconds * fps),
    endFrame: Math.round(arrival.seconds * fps),
    eased: true,
  };
}
