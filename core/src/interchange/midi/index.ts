import { itemAt, lastOf, present } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { type BeatMark, byTime, type Marks, markerKind, unreadable } from "../marks/index.ts";
import { type MidiTimes, readMidiFile, writeMidiFile } from "./midi-file.ts";

export { type MidiTimes, readMidiFile, writeMidiFile };

const DIVISION = 960;
const DEFAULT_MICROSECONDS = 500_000;
const LONGEST_MICROSECONDS = 0xff_ff_ff;
/** More beats than any song has: a damaged file must not fill the memory. */
const MOST_BEATS = 200_000;

/**
 * A Standard MIDI File whose quarter notes are the beats: a tempo for each beat, time signatures
 * where the count of the bar changes, markers at their ticks ("kind: name"). Time before the first
 * beat is whole quarter notes. Each tempo is rounded so that no error adds up: every beat lies
 * within a microsecond. Cost O(beats + markers).
 */
export function writeMarksMidi({ beats, markers }: Marks, endSeconds: Seconds): Uint8Array {
  return writeMidiFile(timesOf({ beats, markers }, endSeconds));
}

/**
 * Beats (quarter notes; dotted ones in 6/8, 9/8 and 12/8) and markers of a Standard MIDI File.
 * Throws `marks-unreadable` with the byte.
 */
export function readMarksMidi(bytes: Uint8Array): Marks {
  return marksOf(readMidiFile(bytes));
}

function timesOf({ beats, markers }: Marks, endSeconds: Seconds): MidiTimes {
  const tempos: { tick: number; microsecondsPerQuarter: number }[] = [];
  const beatTicks: number[] = [];
  let tick = 0;
  let reachedMicroseconds = 0;
  const quarters = (count: number, microsecondsPerQuarter: number): void => {
    if (count === 0) return;
    if (tempos.at(-1)?.microsecondsPerQuarter !== microsecondsPerQuarter) tempos.push({ tick, microsecondsPerQuarter });
    tick += count * DIVISION;
    reachedMicroseconds += count * microsecondsPerQuarter;
  };
  /**
   * A stretch up to `seconds` of so many quarter notes; the last one takes what rounding left over.
   */
  const advance = (seconds: Seconds, count: number): void => {
    const whole = Math.max(count, Math.round(seconds * 1e6 - reachedMicroseconds));
    const each = Math.min(LONGEST_MICROSECONDS, Math.round(whole / count));
    quarters(count - 1, each);
    quarters(1, Math.max(1, Math.min(LONGEST_MICROSECONDS, whole - (count - 1) * each)));
  };
  const usualGap =
    beats.length > 1
      ? (lastOf(beats).seconds - itemAt(beats, 0).seconds) / (beats.length - 1)
      : DEFAULT_MICROSECONDS / 1e6;
  for (const beat of beats) {
    const gap = beat.seconds * 1e6 - reachedMicroseconds;
    if (beatTicks.length === 0) {
      if (gap >= 1) advance(beat.seconds, Math.max(1, Math.round(gap / 1e6 / usualGap)));
    } else advance(beat.seconds, Math.max(1, Math.ceil(gap / LONGEST_MICROSECONDS)));
    beatTicks.push(tick);
  }
  if (beats.length === 0) tempos.push({ tick: 0, microsecondsPerQuarter: DEFAULT_MICROSECONDS });
  const map: MidiTimes = { division: DIVISION, tempos, signatures: [], markers: [], endTick: tick };
  const clock = tickClock(map);
  return {
    ...map,
    signatures: signaturesOf(beats, beatTicks),
    markers: byTime(markers).map(({ seconds, name, kind }) => ({
      tick: clock.tickAt(seconds),
      text: kind ? `${kind}: ${name}` : name,
    })),
    endTick: Math.max(tick, clock.tickAt(Math.max(0, endSeconds))),
  };
}

/** A signature where a bar starts that has another count than the one before. */
function signaturesOf(beats: readonly BeatMark[], ticks: readonly number[]): MidiTimes["signatures"] {
  const signatures: { tick: number; numerator: number; denominator: number }[] = [];
  const starts = beats.flatMap((beat, i) => (beat.position === 1 ? [i] : []));
  for (const [k, start] of starts.entries()) {
    const next = starts[k + 1];
    // The last bar may be cut short: it goes on as the one before.
    if (next === undefined && signatures.length > 0) break;
    const numerator = (next ?? beats.length) - start;
    if (signatures.at(-1)?.numerator !== numerator)
      signatures.push({ tick: itemAt(ticks, start), numerator: Math.min(255, numerator), denominator: 4 });
  }
  return signatures;
}

function marksOf(times: MidiTimes): Marks {
  const clock = tickClock(times);
  const beats: BeatMark[] = [];
  const signatures = times.signatures.length > 0 ? times.signatures : [{ tick: 0, numerator: 4, denominator: 4 }];
  // What lies before the first signature is an upbeat to it.
  const spans = signatures.map((signature, i) => ({ ...signature, end: signatures[i + 1]?.tick ?? times.endTick + 1 }));
  const first = itemAt(spans, 0);
  const step = beatTicks(first, times.division);
  for (let tick = first.tick - step; tick >= 0; tick -= step) {
    const back = (first.tick - tick) / step;
    const count = beatsInBar(first);
    beats.unshift({ seconds: clock.secondsAt(tick), position: (((-back % count) + count) % count || 0) + 1 });
  }
  for (const span of spans) {
    const ticks = beatTicks(span, times.division);
    const count = beatsInBar(span);
    for (let i = 0, tick = span.tick; tick < span.end; i++, tick += ticks) {
      if (beats.length >= MOST_BEATS)
        throw unreadable("The file", `it has more than ${MOST_BEATS} beats; it is damaged or no music.`);
      beats.push({ seconds: clock.secondsAt(tick), position: (i % count) + 1 });
    }
  }
  const markers = times.markers.map(({ tick, text }) => {
    const [, word = "", name = ""] = /^(\w+): ?(.*)$/s.exec(text) ?? [];
    const kind = markerKind(word);
    return { seconds: clock.secondsAt(tick), name: kind ? name : text, kind };
  });
  return { beats: times.endTick > 0 ? beats : [], markers };
}

function isCompound({ numerator, denominator }: { numerator: number; denominator: number }): boolean {
  return denominator === 8 && numerator % 3 === 0 && numerator > 3;
}

function beatsInBar(signature: { numerator: number; denominator: number }): number {
  return isCompound(signature) ? signature.numerator / 3 : signature.numerator;
}

function beatTicks(signature: { numerator: number; denominator: number }, division: number): number {
  return Math.max(1, ((isCompound(signature) ? 3 : 1) * 4 * division) / signature.denominator);
}

/**
 * Seconds of ticks and back along a tempo map; before the first tempo it is 120 beats a minute
 * (MIDI 1.0).
 */
function tickClock({ division, tempos }: MidiTimes): {
  secondsAt(tick: number): number;
  tickAt(seconds: Seconds): number;
} {
  const points: { tick: number; microseconds: number; each: number }[] = [
    { tick: 0, microseconds: 0, each: DEFAULT_MICROSECONDS },
  ];
  for (const { tick, microsecondsPerQuarter } of tempos) {
    const last = lastOf(points);
    const microseconds = last.microseconds + ((tick - last.tick) * last.each) / division;
    points.push({ tick, microseconds, each: microsecondsPerQuarter });
  }
  return {
    secondsAt(tick) {
      const point = present(points.findLast((candidate) => candidate.tick <= tick));
      return (point.microseconds + ((tick - point.tick) * point.each) / division) / 1e6;
    },
    tickAt(seconds) {
      const point = points.findLast((candidate) => candidate.microseconds <= seconds * 1e6) ?? itemAt(points, 0);
      return Math.round(point.tick + ((seconds * 1e6 - point.microseconds) * division) / point.each);
    },
  };
}
