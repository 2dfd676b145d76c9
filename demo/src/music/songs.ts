import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { Random } from "../random.ts";
import { forgetNotes, type Instrument } from "./instruments.ts";
import { mixdown, type PlayedNote, type StereoSound } from "./mixdown.ts";

interface SongSection {
  readonly label: string;
  readonly bars: number;
  readonly chords: readonly string[];
  readonly parts: readonly Part[];
}

type Part = "pad" | "arpeggio" | "strum" | "bass" | "beat" | "brushes" | "claps" | "melody" | "waltz";

export interface SongPlan {
  readonly name: string;
  readonly fileStem: string;
  readonly beatsPerBar: 3 | 4;
  readonly bpm: number;
  /** How far the tempo wanders from `bpm`, as a share: a live band. */
  readonly drift: number;
  readonly leadSeconds: number;
  readonly sections: readonly SongSection[];
  readonly seed: number;
  /** Rings out after the last bar. */
  readonly finalChord: string;
}

/** What is true of a song because it was composed so. */
export interface SongTruth {
  readonly beats: readonly { readonly seconds: number; readonly position: number }[];
  readonly sections: readonly { readonly startSeconds: number; readonly label: string }[];
  readonly beatsPerBar: number;
}

const VERSE = ["Am", "F", "C", "G"];
const CHORUS = ["F", "G", "Am", "C", "F", "G", "C", "C"];

export const SONGS: readonly SongPlan[] = [
  {
    name: "Lanterns on the Water",
    fileStem: "lanterns-on-the-water",
    beatsPerBar: 4,
    bpm: 96,
    drift: 0,
    leadSeconds: 0.35,
    seed: 11,
    finalChord: "Am",
    sections: [
      { label: "intro", bars: 8, chords: VERSE, parts: ["pad", "arpeggio"] },
      { label: "verse", bars: 16, chords: VERSE, parts: ["pad", "arpeggio", "bass", "brushes"] },
      { label: "chorus", bars: 16, chords: CHORUS, parts: ["pad", "arpeggio", "bass", "beat", "melody"] },
      { label: "verse", bars: 8, chords: VERSE, parts: ["pad", "arpeggio", "bass", "brushes", "melody"] },
      {
        label: "chorus",
        bars: 16,
        chords: CHORUS,
        parts: ["pad", "arpeggio", "strum", "bass", "beat", "claps", "melody"],
      },
      { label: "end", bars: 7, chords: VERSE, parts: ["pad", "arpeggio"] },
    ],
  },
  {
    name: "Quay Street Band",
    fileStem: "quay-street-band",
    beatsPerBar: 4,
    bpm: 112,
    drift: 0.03,
    leadSeconds: 0.2,
    seed: 23,
    finalChord: "G",
    sections: [
      { label: "intro", bars: 4, chords: ["G", "C", "G", "D"], parts: ["strum", "claps"] },
      {
        label: "verse",
        bars: 16,
        chords: ["G", "C", "G", "D", "Em", "C", "D", "G"],
        parts: ["strum", "bass", "brushes", "melody"],
      },
      {
        label: "chorus",
        bars: 16,
        chords: ["C", "G", "D", "G", "C", "G", "D", "D"],
        parts: ["strum", "bass", "beat", "claps", "melody"],
      },
      {
        label: "verse",
        bars: 8,
        chords: ["G", "C", "G", "D", "Em", "C", "D", "G"],
        parts: ["strum", "bass", "brushes"],
      },
      {
        label: "chorus",
        bars: 16,
        chords: ["C", "G", "D", "G", "C", "G", "D", "G"],
        parts: ["strum", "bass", "beat", "claps", "melody", "pad"],
      },
    ],
  },
  {
    name: "Last Dance on the Quay",
    fileStem: "last-dance-on-the-quay",
    beatsPerBar: 3,
    bpm: 138,
    drift: 0,
    leadSeconds: 0.5,
    seed: 37,
    finalChord: "D",
    sections: [
      { label: "intro", bars: 8, chords: ["D", "A", "Bm", "G"], parts: ["waltz"] },
      {
        label: "verse",
        bars: 32,
        chords: ["D", "A", "Bm", "G", "D", "G", "A", "A"],
        parts: ["waltz", "bass", "melody"],
      },
      {
        label: "chorus",
        bars: 32,
        chords: ["G", "D", "A", "Bm", "G", "D", "A", "D"],
        parts: ["waltz", "bass", "pad", "melody", "brushes"],
      },
      { label: "end", bars: 8, chords: ["D", "A", "G", "D"], parts: ["waltz", "pad"] },
    ],
  },
];

/** After the last bar a final chord rings out. */
const RING_SECONDS = 4.5;

/**
 * Plays a song. The truth beside it are the times that its notes were placed by, not a measurement.
 */
export function composeSong(plan: SongPlan): { sound: StereoSound; truth: SongTruth } {
  const random = new Random(plan.seed);
  const barCount = plan.sections.reduce((sum, section) => sum + section.bars, 0);
  const beatTimes = tempoMap(plan, barCount * plan.beatsPerBar + 1, random);
  const notes: PlayedNote[] = [];
  const sections: SongTruth["sections"][number][] = [];
  let bar = 0;
  for (const section of plan.sections) {
    sections.push({ startSeconds: itemAt(beatTimes, bar * plan.beatsPerBar), label: section.label });
    for (let i = 0; i < section.bars; i++, bar++) {
      const chord = chordPitches(itemAt(section.chords, i % section.chords.length));
      const at = (beat: number): number => timeAt(beatTimes, bar * plan.beatsPerBar + beat);
      for (const part of section.parts) playBar(part, { plan, chord, at, barInSection: i, notes });
    }
  }
  const end = lastOf(beatTimes);
  const final = chordPitches(plan.finalChord);
  for (const pitch of [...final, final[0] - 24]) {
    notes.push({ instrument: "keys", seconds: end, lengthSeconds: RING_SECONDS - 1, pitch, level: 0.9 });
    notes.push({ instrument: "pad", seconds: end, lengthSeconds: RING_SECONDS - 2, pitch, level: 0.8 });
  }
  const sound = mixdown(notes, end + RING_SECONDS);
  forgetNotes();
  const beats = beatTimes.map((seconds, i) => ({ seconds, position: (i % plan.beatsPerBar) + 1 }));
  return { sound, truth: { beats, sections, beatsPerBar: plan.beatsPerBar } };
}

/**
 * Beat times; a drifting band follows two slow waves and a wandering step, but never more than
 * `drift` from its tempo.
 */
function tempoMap(plan: SongPlan, beats: number, random: Random): number[] {
  const times = [plan.leadSeconds];
  let wander = 0;
  for (let beat = 1; beat < beats; beat++) {
    wander = 0.95 * wander + 0.1 * random.bell();
    const wave = 0.5 * Math.sin(beat / 19) + 0.3 * Math.sin(beat / 7.3) + 0.2 * Math.max(-1, Math.min(1, wander));
    times.push(lastOf(times) + 60 / (plan.bpm * (1 + plan.drift * wave)));
  }
  return times;
}

function timeAt(beatTimes: readonly number[], beat: number): number {
  const whole = Math.min(Math.floor(beat), beatTimes.length - 2);
  const left = itemAt(beatTimes, whole);
  return left + (beat - whole) * (itemAt(beatTimes, whole + 1) - left);
}

const ROOTS: Readonly<Record<string, number>> = { C: 60, D: 62, E: 64, F: 65, G: 67, A: 69, B: 71 };

/** Root, third and fifth around middle C. */
function chordPitches(name: string): [number, number, number] {
  const root = present(ROOTS[itemAt(name, 0)]) - (present(ROOTS[itemAt(name, 0)]) > 66 ? 12 : 0);
  return [root, root + (name.endsWith("m") ? 3 : 4), root + 7];
}

interface BarContext {
  readonly plan: SongPlan;
  readonly chord: readonly [number, number, number];
  /** Seconds of a beat of this bar; fractions fall between beats. */
  readonly at: (beat: number) => number;
  readonly barInSection: number;
  readonly notes: PlayedNote[];
}

function playBar(part: Part, bar: BarContext): void {
  const { plan, chord, at, notes, barInSection } = bar;
  const beatsInBar = plan.beatsPerBar;
  const play = (instrument: Instrument, beat: number, beats: number, pitch: number, level: number): void => {
    notes.push({
      instrument,
      seconds: at(beat),
      lengthSeconds: Math.round((beats * 60 * 20) / plan.bpm) / 20,
      pitch,
      level,
    });
  };
  switch (part) {
    case "pad":
      for (const pitch of chord) play("pad", 0, beatsInBar, pitch, 0.8);
      return;
    case "arpeggio": {
      const steps = [0, 1, 2, 1, 3, 2, 1, 2];
      steps.forEach((step, i) =>
        play("keys", i / 2, 0.9, step === 3 ? chord[0] + 12 : itemAt(chord, step), i === 0 ? 1 : i % 2 ? 0.45 : 0.65),
      );
      return;
    }
    case "strum":
      for (const [beat, level] of [
        [0, 1],
        [1, 0.7],
        [1.5, 0.5],
        [2.5, 0.55],
        [3, 0.75],
        [3.5, 0.5],
      ] as const) {
        chord.forEach((pitch, i) => play("pluck", beat + i * 0.012, 0.8, pitch - 12 * (i === 0 ? 1 : 0), level * 0.75));
      }
      return;
    case "bass":
      play("bass", 0, 1.4, chord[0] - 24, 1);
      if (beatsInBar === 4) {
        play("bass", 2, 0.9, chord[0] - 24, 0.8);
        play("bass", 3.5, 0.4, chord[2] - 24, 0.55);
      }
      return;
    case "beat":
      for (const beat of [0, 2, 2.5]) play("kick", beat, 0.2, 0, beat === 2.5 ? 0.55 : 1);
      for (const beat of [1, 3]) play("snare", beat, 0.2, 0, 0.9);
      for (let eighth = 0; eighth < 8; eighth++) play("hat", eighth / 2, 0.1, 0, eighth % 2 ? 0.5 : 0.8);
      if (barInSection % 8 === 7) for (const beat of [3.25, 3.5, 3.75]) play("snare", beat, 0.2, 0, 0.6);
      return;
    case "brushes":
      play("kick", 0, 0.2, 0, 0.7);
      for (let beat = 1; beat < beatsInBar; beat++) play("snare", beat, 0.2, 0, beat % 2 ? 0.32 : 0.16);
      for (let beat = 0; beat < beatsInBar; beat++) play("hat", beat, 0.1, 0, 0.4);
      return;
    case "claps":
      for (const beat of [1, 3]) play("clap", beat, 0.2, 0, 0.8);
      return;
    case "waltz":
      play("pluck", 0, 1.2, chord[0] - 12, 1);
      for (const beat of [1, 2])
        for (const pitch of [chord[1], chord[2], chord[0] + 12]) play("pluck", beat, 0.7, pitch, 0.42);
      return;
    case "melody":
      playMelody(bar, play);
  }
}

/**
 * Phrases of four bars in the form A A' B A, from chord tones and their neighbours; the same seed
 * sings the same song.
 */
function playMelody(
  { plan, chord, barInSection }: BarContext,
  play: (instrument: Instrument, beat: number, beats: number, pitch: number, level: number) => void,
): void {
  const phrase = Math.floor(barInSection / 4) % 4;
  const random = new Random(plan.seed * 100 + (phrase === 2 ? 50 : 0) + (barInSection % 4));
  const rhythms =
    plan.beatsPerBar === 4
      ? [
          [0, 1, 1.5, 2],
          [0, 1.5, 2, 3],
          [0, 2],
          [0, 0.5, 1, 2, 3],
        ]
      : [[0, 2], [0, 1, 2], [0], [0, 1.5, 2]];
  const rhythm = phrase === 3 && barInSection % 4 === 3 ? [0] : random.pick(rhythms);
  rhythm.forEach((beat, i) => {
    const next = rhythm[i + 1] ?? plan.beatsPerBar;
    const onBeat = Number.isInteger(beat);
    const tone = itemAt(chord, random.whole(0, 2)) + 12;
    play("reed", beat, (next - beat) * 0.92, onBeat ? tone : tone + random.pick([-2, 2]), i === 0 ? 1 : 0.8);
  });
}
