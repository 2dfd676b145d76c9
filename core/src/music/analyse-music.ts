import { type Accent, findAccents } from "./accents.ts";
import { ANALYSIS_SAMPLE_RATE, HOP_SECONDS, type MonoAudio } from "./audio.ts";
import { guessBars } from "./bar-tracking.ts";
import { trackBeats } from "./beat-tracking.ts";
import { type EnergyCurve, energyCurve, musicEnd, SILENT_LEVEL } from "./energy.ts";
import { refineToOnset } from "./onset-refinement.ts";
import { onsetStrength } from "./onset-strength.ts";
import { spectrogram } from "./spectrogram.ts";
import { type TempoCurve, tempoCurve } from "./tempo-curve.ts";

export interface Beat {
  readonly seconds: number;
  /** Place in the bar: 1 starts a bar, 0 is unknown. */
  readonly position: number;
  /** 0 to 1. */
  readonly confidence: number;
}

export interface Section {
  readonly startSeconds: number;
  readonly endSeconds: number;
  readonly label: string;
}

/** What was measured in a song. Times count from the first decoded sample. What is not found is empty or null. */
export interface MusicAnalysis {
  readonly durationSeconds: number;
  /** Whether the music has a beat that a person could tap along to. Without one, `beats` and `bars` are empty. */
  readonly steady: boolean;
  /** The median tempo. */
  readonly tempoBpm: number | null;
  readonly meter: string | null;
  readonly beats: readonly Beat[];
  readonly bars: readonly number[];
  readonly sections: readonly Section[];
  readonly accents: readonly Accent[];
  readonly energy: EnergyCurve;
  readonly musicEndSeconds: number;
}

/** Fewer beats than this are no pulse. */
const FEWEST_BEATS = 4;
/**
 * Mean clarity of the tempo below which there is nothing to tap to. Measured: noise 0.05, synthetic speech 0.07, bowed
 * strings without drums 0.11, everything with drums 0.4 and up. A few seconds repeat by chance, so they must be clearer.
 */
const steadyClarity = (durationSeconds: number): number => Math.max(0.09, 1 / durationSeconds);

/**
 * Finds the beats of a song and what belongs to them. `audio` is mono at 44.1 kHz. Pure, never throws on sound, however
 * short or silent. Cost: about half a second of processor time for a minute of music.
 */
export function analyseMusic(audio: MonoAudio): MusicAnalysis {
  if (audio.sampleRate !== ANALYSIS_SAMPLE_RATE) {
    throw new RangeError(
      `The analysis works at ${ANALYSIS_SAMPLE_RATE} Hz, but this sound has ${audio.sampleRate} Hz.`,
    );
  }
  const durationSeconds = audio.samples.length / audio.sampleRate;
  const energy = energyCurve(audio);
  const nothing: MusicAnalysis = {
    durationSeconds,
    steady: false,
    tempoBpm: null,
    meter: null,
    beats: [],
    bars: [],
    sections: [],
    accents: [],
    energy,
    musicEndSeconds: musicEnd(energy, durationSeconds),
  };
  if (Math.max(0, ...energy.values) < SILENT_LEVEL) return nothing;
  const spectrum = spectrogram(audio);
  const onsets = onsetStrength(spectrum);
  const accents = findAccents(onsets.all);
  const tempo = tempoCurve(onsets.all);
  const hops = trackBeats(onsets.all, tempo.periodHops);
  const clarity = meanClarity(tempo, hops);
  if (hops.length < FEWEST_BEATS || clarity < steadyClarity(durationSeconds)) return { ...nothing, accents };

  const bars = guessBars(hops, spectrum, onsets);
  const beats: Beat[] = [];
  for (const [index, hop] of hops.entries()) {
    const refined = refineToOnset(audio, hop * HOP_SECONDS);
    const previous = beats.at(-1);
    // Two refined beats can meet on one onset only if the tracked ones were a hop apart; order must hold all the same.
    if (previous && refined.seconds <= previous.seconds) continue;
    beats.push({
      seconds: refined.seconds,
      position: ((index - bars.firstBarBeat + bars.beatsPerBar) % bars.beatsPerBar) + 1,
      confidence: Math.min(1, tempo.clarity[hop]! * 1.5) * (refined.riseDecibels > 0 ? 1 : 0.7),
    });
  }
  return {
    ...nothing,
    steady: true,
    tempoBpm: medianTempo(beats),
    meter: `${bars.beatsPerBar}/4`,
    beats,
    bars: beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds),
    accents,
  };
}

function meanClarity(tempo: TempoCurve, hops: readonly number[]): number {
  return hops.length === 0 ? 0 : hops.reduce((sum, hop) => sum + tempo.clarity[hop]!, 0) / hops.length;
}

function medianTempo(beats: readonly Beat[]): number {
  const gaps = beats
    .slice(1)
    .map((beat, i) => beat.seconds - beats[i]!.seconds)
    .sort((a, b) => a - b);
  return 60 / gaps[Math.floor(gaps.length / 2)]!;
}
