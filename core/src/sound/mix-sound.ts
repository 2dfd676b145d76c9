import { itemAt, lastOf } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { applyGain } from "./gain-curve.ts";
import type { SoundRenderer } from "./mastered-mix.ts";
import { piecewiseLinear } from "./piecewise-linear.ts";
import { resampled } from "./resample.ts";
import { memorySource, type SampleSource, type Stereo, silence } from "./sample-source.ts";
import { ownerKey, type SoundPiece, type SoundPlan, type TimePoint } from "./sound-plan.ts";
import { STRETCH_HOP, TimeStretch } from "./time-stretch.ts";

/**
 * Below this change of speed a piece is played like a tape a little faster or slower; above it, it
 * is stretched and keeps its pitch.
 */
const TAPE_CHANGE = 0.0101;
/** A stretched run goes over into the recording as it is within this. */
const SEAM_SECONDS = 0.02;

/**
 * Renders the sound of a plan, piece by piece in any order: the page plays and the export writes
 * what comes from here. The same frames always come out the same, however they are asked for.
 * Memory: a stretched run is kept once rendered.
 */
export class SoundMixer implements SoundRenderer {
  readonly #plan: SoundPlan;
  readonly #sampleRate: number;
  readonly #sourceOf: (soundName: string) => SampleSource;
  readonly #stretched = new Map<string, SampleSource>();
  /**
   * Highest sample of each owner in what was rendered last, at its level in the mix: for meters.
   */
  readonly peaks = new Map<string, number>();

  /** `sourceOf` gives a decode at `sampleRate`. */
  constructor(plan: SoundPlan, sampleRate: number, sourceOf: (soundName: string) => SampleSource) {
    this.#plan = plan;
    this.#sampleRate = sampleRate;
    this.#sourceOf = sourceOf;
  }

  /** Frames of the whole plan. */
  get frameCount(): number {
    return Math.round(this.#plan.lengthSeconds * this.#sampleRate);
  }

  /** `count` frames from frame `first` on; outside the plan there is silence. */
  render(first: number, count: number): Stereo {
    const out = silence(count);
    const end = Math.min(first + count, this.frameCount);
    this.peaks.clear();
    const songs = this.#plan.pieces.filter(({ owner }) => owner.kind === "song");
    this.#add(out, songs, first, end);
    for (const channel of out) applyGain(this.#plan.musicGain, channel, first / this.#sampleRate, this.#sampleRate);
    this.#add(
      out,
      this.#plan.pieces.filter(({ owner }) => owner.kind !== "song"),
      first,
      end,
    );
    return out;
  }

  /** Adds pieces to sound that begins with frame `first`, up to frame `end`. */
  #add(out: Stereo, pieces: readonly SoundPiece[], first: number, end: number): void {
    for (const piece of pieces) {
      const pieceStart = Math.max(first, this.#frame(itemAt(piece.time, 0).filmSeconds));
      const pieceEnd = Math.min(end, this.#frame(lastOf(piece.time).filmSeconds));
      if (pieceEnd <= pieceStart) continue;
      const sound = this.#renderPiece(piece, pieceStart, pieceEnd);
      for (const channel of [0, 1] as const) {
        applyGain(piece.gain, sound[channel], pieceStart / this.#sampleRate, this.#sampleRate);
        const [target, samples] = [out[channel], sound[channel]];
        let peak = 0;
        for (let i = 0; i < samples.length; i++) {
          const sample = samples[i]!;
          target[pieceStart - first + i]! += sample;
          peak = Math.max(peak, Math.abs(sample));
        }
        const key = ownerKey(piece.owner);
        this.peaks.set(key, Math.max(peak, this.peaks.get(key) ?? 0));
      }
    }
  }

  #frame(seconds: Seconds): number {
    return Math.round(seconds * this.#sampleRate);
  }

  /** Film frames from `start` to `end` (exclusive) of one piece, without its gain. */
  #renderPiece(piece: SoundPiece, start: number, end: number): Stereo {
    const out = silence(end - start);
    for (const [index, run] of runsOf(piece.time).entries()) {
      const from = Math.max(start, this.#frame(itemAt(run.points, 0).filmSeconds));
      const to = Math.min(end, this.#frame(lastOf(run.points).filmSeconds));
      if (to <= from) continue;
      const sound = this.#renderRun(piece, run, index, from, to - from);
      for (const channel of [0, 1] as const) out[channel].set(sound[channel], from - start);
    }
    return out;
  }

  #renderRun(piece: SoundPiece, run: Run, index: number, from: number, count: number): Stereo {
    const source = this.#sourceOf(piece.soundName);
    const [first, second] = run.points as [TimePoint, TimePoint];
    if (run.kind === "same") {
      return source.read(from + this.#frame(first.soundSeconds) - this.#frame(first.filmSeconds), count);
    }
    if (run.kind === "tape") {
      const step = slope(first, second);
      const songFrame = first.soundSeconds * this.#sampleRate + (from - first.filmSeconds * this.#sampleRate) * step;
      return resampled(source, songFrame, step, count);
    }
    const key = `${this.#plan.pieces.indexOf(piece)} ${index}`;
    let stretched = this.#stretched.get(key);
    if (!stretched) {
      stretched = this.#stretch(source, run);
      this.#stretched.set(key, stretched);
    }
    return stretched.read(from - this.#frame(first.filmSeconds), count);
  }

  /**
   * The whole of a run whose tempo is not that of the recording, ending where the recording goes
   * on.
   */
  #stretch(source: SampleSource, { points }: Run): SampleSource {
    const [first, last] = [itemAt(points, 0), lastOf(points)];
    const start = this.#frame(first.filmSeconds);
    const length = this.#frame(last.filmSeconds) - start;
    const stretch = new TimeStretch(
      source,
      (frame) => soundSecondsAt(points, (start + frame) / this.#sampleRate) * this.#sampleRate,
    );
    const out = silence(length);
    for (let at = 0; at < length; at += STRETCH_HOP) {
      const sound = stretch.next();
      for (const channel of [0, 1] as const) {
        out[channel].set(sound[channel].subarray(0, Math.min(STRETCH_HOP, length - at)), at);
      }
    }
    const seam = Math.min(length, this.#frame(SEAM_SECONDS));
    const recorded = source.read(this.#frame(last.soundSeconds) - seam, seam);
    for (const channel of [0, 1] as const) {
      for (let i = 0; i < seam; i++) {
        const share = (i + 0.5) / seam;
        const at = length - seam + i;
        out[channel][at] = (1 - share) * out[channel][at]! + share * recorded[channel][i]!;
      }
    }
    return memorySource(out);
  }
}

interface Run {
  readonly kind: "same" | "tape" | "stretched";
  readonly points: readonly TimePoint[];
}

/**
 * A piece's time divided by how it is played. Neighbouring stretched parts are one run, so that the
 * grains go on.
 */
function runsOf(time: readonly TimePoint[]): Run[] {
  const runs: Run[] = [];
  for (let i = 1; i < time.length; i++) {
    const [from, to] = [itemAt(time, i - 1), itemAt(time, i)];
    const speed = slope(from, to);
    const change = Math.abs(speed - 1);
    const kind = change < 1e-7 ? "same" : change <= TAPE_CHANGE ? "tape" : "stretched";
    const last = runs.at(-1);
    if (kind === "stretched" && last?.kind === "stretched")
      runs[runs.length - 1] = { kind, points: [...last.points, to] };
    else runs.push({ kind, points: [from, to] });
  }
  return runs;
}

const slope = (from: TimePoint, to: TimePoint): number =>
  (to.soundSeconds - from.soundSeconds) / (to.filmSeconds - from.filmSeconds);

/** The moment of the song at a moment of the film. */
export const soundSecondsAt = (time: readonly TimePoint[], filmSeconds: Seconds): number =>
  piecewiseLinear(
    time,
    (point) => point.filmSeconds,
    (point) => point.soundSeconds,
    filmSeconds,
  );
