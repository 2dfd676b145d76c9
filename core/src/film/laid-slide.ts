import type { Grid } from "../grid/index.ts";
import type { Slide } from "../show/index.ts";
import type { Frames, Seconds } from "../time/index.ts";

/** A slide in its place, before anything is known about its look. */
export interface LaidSlide {
  readonly slide: Slide;
  readonly round: number;
  readonly startFrame: Frames;
  /** Exclusive. */
  readonly endFrame: Frames;
  /** Of the musical event that it lands on; null for the first. */
  readonly landingSeconds: Seconds | null;
}

/** Frames of a film, the end exclusive. */
export interface FrameSpan {
  readonly startFrame: Frames;
  readonly endFrame: Frames;
}

/** When a slide is seen at all, and when it stands alone. */
export interface SlideTimes {
  readonly seen: FrameSpan;
  readonly standing: FrameSpan;
  readonly isLast: boolean;
}

/** What the music does while a slide stands: moves may follow it. */
export interface MusicalMoments {
  readonly grid: Pick<Grid, "beats">;
  /** With strength 0 to 1, in order. */
  readonly accents: readonly { readonly seconds: Seconds; readonly strength: number }[];
}

/** A picture that comes again in a later round draws another lot. */
export const lotName = ({ slide, round }: Pick<LaidSlide, "slide" | "round">): string =>
  round === 0 ? slide.id : `${slide.id} ${round}`;
