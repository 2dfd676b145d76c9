/**
 * One channel of sound. `samples` are in -1 to 1; sample 0 is time zero of the song for everything
 * in this project.
 */
export interface MonoAudio {
  readonly samples: Float32Array;
  readonly sampleRate: number;
}

/** The rate that the analysis is written for. Callers decode to it; times do not depend on it. */
export const ANALYSIS_SAMPLE_RATE = 44_100;

/** Ten milliseconds: the step of onset strength. Beats are refined below it afterwards. */
export const HOP_SECONDS = 0.01;

/** Twenty milliseconds: the step of chroma and of the beat network. A frame is two hops. */
export const FRAME_HOPS = 2;
export const FRAME_SECONDS = FRAME_HOPS * HOP_SECONDS;
