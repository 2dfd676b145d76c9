import { mean, median } from "../numeric/index.ts";
import { itemAt, lastOf, present } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import {
  type BeatActivations,
  type BeatNetwork,
  beatActivations,
  beatFeatures,
  type LevelDoubt,
  levelDoubt,
  meterName,
  onsetCurve,
  pulsePrior,
  steadyPulses,
  type TimedBeat,
  timeBeats,
  trackBars,
  withEndCounted,
} from "./beats/index.ts";
import {
  ANALYSIS_SAMPLE_RATE,
  type Chroma,
  chroma,
  decimate,
  type EnergyCurve,
  energyCurve,
  FRAME_SECONDS,
  HOP_SECONDS,
  type MonoAudio,
  type OnsetStrength,
  onsetStrength,
  SILENT_LEVEL,
  type Spectrogram,
  spectrogram,
} from "./signal/index.ts";
import {
  type Accent,
  applauseStart,
  barFeatures,
  type Doubt,
  type Ending,
  findAccents,
  findDoubts,
  findEnding,
  findOnsets,
  findSections,
  phraseBars,
  phraseStarts,
  type Section,
  type Texture,
  texture,
} from "./structure/index.ts";

export interface Beat {
  readonly seconds: Seconds;
  /** Place in the bar: 1 starts a bar, 0 is unknown. */
  readonly position: number;
  /** 0 to 1. */
  readonly confidence: number;
}

/** Rises whenever the analysis finds something else in the same sound. */
export const ANALYSIS_VERSION = 5;

/** A stretch of time, `startSeconds` inclusive, `endSeconds` exclusive. */
export interface Stretch {
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
}

/**
 * What was measured in a song. Times count from the first decoded sample. What is not found is
 * empty or null.
 */
export interface MusicAnalysis {
  /** ANALYSIS_VERSION of the program that listened. */
  readonly version: number;
  /** The name of the beat network that listened. */
  readonly model: string;
  readonly durationSeconds: Seconds;
  /**
   * Whether the music has a beat that a person could tap along to. Without one, `beats` and `bars`
   * are empty.
   */
  readonly steady: boolean;
  /** The median tempo in felt beats: 6/8 has two in a bar, 12/8 four. */
  readonly tempoBpm: number | null;
  readonly meter: string | null;
  readonly beats: readonly Beat[];
  readonly bars: readonly number[];
  /** Usual bars in a phrase, and where phrases start. */
  readonly phraseBars: number | null;
  readonly phrases: readonly number[];
  readonly sections: readonly Section[];
  readonly accents: readonly Accent[];
  /** Seconds of everything that is struck or begins. */
  readonly onsets: readonly number[];
  /** Stretches with sound but without a pulse. */
  readonly freeTime: readonly Stretch[];
  readonly doubts: readonly Doubt[];
  /** How the beat of the whole song might be felt otherwise; null where it is sure. */
  readonly levelDoubt: LevelDoubt | null;
  readonly energy: EnergyCurve;
  /** By which bars are compared; null where there is no beat. */
  readonly texture: Texture | null;
  readonly ending: Ending;
  /** Where nothing can be heard any more: the end of `ending`. */
  readonly musicEndSeconds: Seconds;
}

/**
 * What share of the processor time was used after each part, measured on a song of three minutes.
 */
const SHARES = { halve: 0.1, spectrum: 0.33, hear: 0.45, activate: 0.75, track: 0.87 } as const;
/** Fewer beats than this are no pulse. */
const FEWEST_BEATS = 4;
/** Mean probability of the beats below which there is nothing to tap to. */
const STEADY_CONFIDENCE = 0.35;
/** Gaps in the pulse shorter than this are rests, not free time. */
const SHORTEST_FREE_SECONDS = 3;

/**
 * Listens to a song: beats, bars, tempo, meter, phrases, sections, accents, energy, ending, and
 * where all that is doubtful. `audio` is mono at 44.1 kHz; `network` finds the beats. Pure, never
 * throws on sound, however short or silent; throws `RangeError` at another rate. `onProgress` hears
 * the share of the work that is done, from 0 to 1, after each part of it.
 * Cost: about a second of processor time for a minute of music; memory about 12 MB for each minute.
 */
export function analyseMusic(
  audio: MonoAudio,
  network: BeatNetwork,
  onProgress: (share: number) => void = () => undefined,
): MusicAnalysis {
  if (audio.sampleRate !== ANALYSIS_SAMPLE_RATE) {
    throw new RangeError(
      `The analysis works at ${ANALYSIS_SAMPLE_RATE} Hz, but this sound has ${audio.sampleRate} Hz.`,
    );
  }
  const durationSeconds = audio.samples.length / audio.sampleRate;
  const energy = energyCurve(audio);
  if (Math.max(0, ...energy.values) < SILENT_LEVEL)
    return withoutBeats(network.name, durationSeconds, energy, [], [], null);
  const heard = hear(audio, onProgress);
  onProgress(SHARES.hear);
  const accents = findAccents(audio, heard.onsets.all);
  const activations = beatActivations(beatFeatures(heard.spectrum, heard.onsets, heard.harmony), network);
  onProgress(SHARES.activate);
  const strokes = onsetCurve(heard.onsets);
  const prior = pulsePrior(steadyPulses(strokes), strokes, activations);
  const timed = withoutRingOut(timeBeats(trackBars(activations, prior), activations, prior), heard.onsets.all);
  onProgress(SHARES.track);
  const isSteady = timed.length >= FEWEST_BEATS && mean(timed.map(({ likely }) => likely)) >= STEADY_CONFIDENCE;
  const nothing = withoutBeats(
    network.name,
    durationSeconds,
    energy,
    accents,
    findOnsets(audio, heard.onsets.all),
    isSteady ? applauseStart(heard.spectrum, lastOf(timed).seconds) : null,
  );
  if (!isSteady) return nothing;

  const { kind, fromSeconds, endSeconds } = nothing.ending;
  const counted = withEndCounted(timed, nothing.onsets, endSeconds);
  const beats = counted.map(({ seconds, position, likely }): Beat => ({ seconds, position, confidence: likely }));
  const bars = beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds);
  // A last chord that rings out is no free time.
  const freeTime = findFreeTime(counted, energy, kind === "chord" ? fromSeconds : endSeconds);
  const sounds = texture(heard.spectrum, heard.onsets, heard.harmony);
  // Bars that only the end's count added would be sections of their own.
  const heardBars = bars.filter((seconds) => seconds <= lastOf(timed).seconds);
  const structure = findStructure(heardBars, lastOf(beats).seconds, sounds, activations);
  const beatsPerBar = commonestBeatsPerBar(timed);
  return {
    ...nothing,
    steady: true,
    tempoBpm: medianTempo(timed),
    meter: meterName(
      beatsPerBar,
      beats.map((beat) => beat.seconds),
      heard.onsets.all,
    ),
    beats,
    bars,
    ...structure,
    texture: sounds,
    freeTime,
    levelDoubt: levelDoubt(timed, activations),
    doubts: findDoubts(
      timed.map((beat) => ({ ...beat, confidence: beat.likely })),
      freeTime,
    ),
  };
}

interface Heard {
  readonly spectrum: Spectrogram;
  readonly onsets: OnsetStrength;
  readonly harmony: Chroma;
}

/**
 * What the beat network hears of a song, rows of FEATURES_PER_FRAME:
 * demo/src/bench/write-features.ts writes it to train on.
 */
export function heardBeatFeatures(audio: MonoAudio): Float32Array {
  const { spectrum, onsets, harmony } = hear(audio, () => undefined);
  return beatFeatures(spectrum, onsets, harmony);
}

function hear({ samples, sampleRate }: MonoAudio, onProgress: (share: number) => void): Heard {
  // What lies above 11 kHz tells nothing that the octaves below do not.
  const halved = { samples: decimate(samples, 2), sampleRate: sampleRate / 2 };
  onProgress(SHARES.halve);
  const spectrum = spectrogram(halved);
  onProgress(SHARES.spectrum);
  return { spectrum, onsets: onsetStrength(spectrum), harmony: chroma(halved) };
}

function withoutBeats(
  model: string,
  durationSeconds: Seconds,
  energy: EnergyCurve,
  accents: readonly Accent[],
  onsets: readonly number[],
  applauseSeconds: Seconds | null,
): MusicAnalysis {
  const ending = findEnding(
    energy,
    accents.map((accent) => accent.seconds),
    durationSeconds,
    applauseSeconds,
  );
  return {
    version: ANALYSIS_VERSION,
    model,
    durationSeconds,
    steady: false,
    tempoBpm: null,
    meter: null,
    beats: [],
    bars: [],
    phraseBars: null,
    phrases: [],
    sections: [],
    accents,
    onsets,
    freeTime: [],
    doubts: [],
    levelDoubt: null,
    energy,
    texture: null,
    ending,
    musicEndSeconds: ending.endSeconds,
  };
}

function findStructure(
  bars: readonly number[],
  lastBeatSeconds: Seconds,
  sounds: Texture,
  activations: BeatActivations,
): Pick<MusicAnalysis, "phraseBars" | "phrases" | "sections"> {
  // The last bar ends where a bar like the one before it would.
  const lastLength = bars.length > 1 ? lastOf(bars) - present(bars.at(-2)) : 0;
  const starts = bars.length > 1 ? [...bars, Math.max(lastOf(bars) + lastLength, lastBeatSeconds)] : [];
  const features = barFeatures(starts, sounds);
  const runs = findSections(
    features,
    starts.slice(0, -1).map((start) => sectionOdds(activations, start)),
  );
  const length = phraseBars(features);
  return {
    phraseBars: features.barCount > 0 ? length : null,
    phrases: phraseStarts(runs, length).map((bar) => itemAt(starts, bar)),
    sections: runs.map(({ firstBar, endBar, label }) => ({
      startSeconds: itemAt(starts, firstBar),
      endSeconds: itemAt(starts, endBar),
      label,
    })),
  };
}

/** Onset strength near a beat, against the song's mean of 1, below which nothing was struck. */
const STRUCK = 0.4;

/** A last chord may ring for several beats: those after the last that was struck are no beats. */
function withoutRingOut(beats: readonly TimedBeat[], onsets: Float32Array): TimedBeat[] {
  const reach = 6;
  const last = beats.findLastIndex(({ seconds }) => {
    const hop = Math.round(seconds / HOP_SECONDS);
    return onsets.subarray(Math.max(0, hop - reach), hop + reach + 1).some((strength) => strength > STRUCK);
  });
  return beats.slice(0, last + 1);
}

/** The network's strongest log odds of a section start within half a second. */
function sectionOdds({ sectionStart, frameCount }: BeatActivations, seconds: Seconds): number {
  const reach = Math.round(0.5 / FRAME_SECONDS);
  const centre = Math.round(seconds / FRAME_SECONDS);
  let strongest = -Infinity;
  for (let frame = Math.max(0, centre - reach); frame <= Math.min(frameCount - 1, centre + reach); frame++) {
    strongest = Math.max(strongest, itemAt(sectionStart, frame));
  }
  return strongest;
}

/** Stretches of at least three seconds in which something sounds but no pulse was found. */
function findFreeTime(beats: readonly TimedBeat[], energy: EnergyCurve, lastSeconds: Seconds): Stretch[] {
  const gaps: Stretch[] = [{ startSeconds: 0, endSeconds: itemAt(beats, 0).seconds }];
  for (const [i, beat] of beats.entries()) {
    if (i > 0 && beat.entersTime) gaps.push({ startSeconds: itemAt(beats, i - 1).seconds, endSeconds: beat.seconds });
  }
  gaps.push({ startSeconds: lastOf(beats).seconds, endSeconds: lastSeconds });
  const loudest = Math.max(...energy.values);
  return gaps.filter(({ startSeconds, endSeconds }) => {
    if (endSeconds - startSeconds < SHORTEST_FREE_SECONDS) return false;
    const values = energy.values.slice(
      Math.ceil(startSeconds / energy.stepSeconds),
      Math.floor(endSeconds / energy.stepSeconds),
    );
    return values.filter((value) => value > loudest * AUDIBLE_RATIO).length > values.length / 2;
  });
}

/** 40 dB under the loudest tenth of a second. */
const AUDIBLE_RATIO = 0.01;

function commonestBeatsPerBar(beats: readonly TimedBeat[]): number {
  const counts = new Map<number, number>();
  for (const { beatsPerBar } of beats) counts.set(beatsPerBar, (counts.get(beatsPerBar) ?? 0) + 1);
  return itemAt(
    [...counts].sort((a, b) => b[1] - a[1]),
    0,
  )[0];
}

function medianTempo(beats: readonly TimedBeat[]): number | null {
  const gaps: number[] = [];
  for (let i = 1; i < beats.length; i++)
    if (!itemAt(beats, i).entersTime) gaps.push(itemAt(beats, i).seconds - itemAt(beats, i - 1).seconds);
  return gaps.length > 0 ? 60 / median(gaps) : null;
}
