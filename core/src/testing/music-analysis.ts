import { ANALYSIS_VERSION, type MusicAnalysis } from "../music/index.ts";

/** An analysis of a song with the given facts and nothing else found. */
export function musicAnalysis(facts: Partial<MusicAnalysis> = {}): MusicAnalysis {
  const endSeconds = facts.musicEndSeconds ?? facts.durationSeconds ?? 0;
  return {
    version: ANALYSIS_VERSION,
    model: "made up",
    durationSeconds: endSeconds,
    steady: (facts.beats?.length ?? 0) > 0,
    tempoBpm: null,
    meter: null,
    beats: [],
    bars: [],
    phraseBars: null,
    phrases: [],
    sections: [],
    accents: [],
    onsets: [],
    freeTime: [],
    doubts: [],
    levelDoubt: null,
    energy: { stepSeconds: 0.1, values: [] },
    texture: null,
    ending: { kind: "chord", endSeconds, fromSeconds: endSeconds },
    musicEndSeconds: endSeconds,
    ...facts,
  };
}

/**
 * A song of whole bars at a steady tempo: from a first beat at `firstSeconds` to `bars` bars later,
 * where the music ends.
 */
export function steadySong(bars: number, secondsPerBeat = 0.5, beatsPerBar = 4, firstSeconds = 0): MusicAnalysis {
  const beats = steadyBeats(bars * beatsPerBar, beatsPerBar, 1, secondsPerBeat).map((beat) => ({
    ...beat,
    seconds: firstSeconds + beat.seconds,
  }));
  return musicAnalysis({
    beats,
    bars: beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds),
    durationSeconds: firstSeconds + bars * beatsPerBar * secondsPerBeat + 2,
    musicEndSeconds: firstSeconds + bars * beatsPerBar * secondsPerBeat,
    tempoBpm: 60 / secondsPerBeat,
    meter: `${beatsPerBar}/4`,
    phraseBars: 4,
  });
}

/** Beats at a steady tempo from 0 on, in bars of `beatsPerBar`, the first at `firstPosition`. */
export function steadyBeats(
  count: number,
  beatsPerBar = 4,
  firstPosition = 1,
  secondsPerBeat = 0.5,
): MusicAnalysis["beats"] {
  return Array.from({ length: count }, (_, i) => ({
    seconds: i * secondsPerBeat,
    position: ((i + firstPosition - 1) % beatsPerBar) + 1,
    confidence: 1,
  }));
}
