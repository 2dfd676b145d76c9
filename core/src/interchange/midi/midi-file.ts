import { itemAt } from "../../presence/index.ts";
import { unreadable } from "../marks/index.ts";

/**
 * What a Standard MIDI File says about time. Ticks count from the start; lists are in rising order.
 */
export interface MidiTimes {
  /** Ticks in a quarter note, 1 to 32,767. */
  readonly division: number;
  readonly tempos: readonly { readonly tick: number; readonly microsecondsPerQuarter: number }[];
  readonly signatures: readonly { readonly tick: number; readonly numerator: number; readonly denominator: number }[];
  /** Marker (6) and cue point (7) texts. */
  readonly markers: readonly { readonly tick: number; readonly text: string }[];
  /** Where the longest track ends. */
  readonly endTick: number;
}

const [TEXT_MARKER, TEXT_CUE, END_OF_TRACK, TEMPO, TIME_SIGNATURE] = [0x06, 0x07, 0x2f, 0x51, 0x58];

/**
 * A Standard MIDI File (MIDI 1.0, format 0) with the tempo map, time signatures and markers in one
 * track. Text is UTF-8.
 */
export function writeMidiFile(times: MidiTimes): Uint8Array {
  const events: { tick: number; order: number; bytes: number[] }[] = [
    ...times.signatures.map(({ tick, numerator, denominator }) => ({
      tick,
      order: 0,
      bytes: [0xff, TIME_SIGNATURE, 4, numerator, Math.log2(denominator), 24, 8],
    })),
    ...times.tempos.map(({ tick, microsecondsPerQuarter: us }) => ({
      tick,
      order: 1,
      bytes: [0xff, TEMPO, 3, (us >> 16) & 255, (us >> 8) & 255, us & 255],
    })),
    ...times.markers.map(({ tick, text }) => {
      const characters = [...utf8(text)];
      return { tick, order: 2, bytes: [0xff, TEXT_MARKER, ...variableLength(characters.length), ...characters] };
    }),
  ];
  events.sort((a, b) => a.tick - b.tick || a.order - b.order);
  events.push({ tick: Math.max(times.endTick, events.at(-1)?.tick ?? 0), order: 3, bytes: [0xff, END_OF_TRACK, 0] });
  const track: number[] = [];
  let last = 0;
  for (const { tick, bytes } of events) {
    track.push(...variableLength(tick - last));
    for (const byte of bytes) track.push(byte);
    last = tick;
  }
  const header = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, times.division >> 8, times.division & 255];
  return Uint8Array.from([...header, 0x4d, 0x54, 0x72, 0x6b, ...bigEndian32(track.length), ...track]);
}

/**
 * The tempo map, time signatures and markers of a file of format 0 or 1; notes are only skipped.
 * Throws `marks-unreadable` with the byte where it is damaged; also for format 2 (independent
 * patterns have no common time) and for time in film frames.
 */
export function readMidiFile(bytes: Uint8Array): MidiTimes {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 14 || ascii(bytes, 0) !== "MThd") throw unreadable("Byte 0", 'a MIDI file begins with "MThd".');
  const format = view.getUint16(8);
  const division = view.getUint16(12);
  if (format > 1) throw unreadable("Byte 8", `formats 0 and 1 can be read, this is format ${format}.`);
  if (division === 0 || division & 0x8000)
    throw unreadable(
      "Byte 12",
      "its ticks are parts of film frames, not of quarter notes; save it with ticks per quarter note.",
    );
  const found = {
    tempos: [] as MidiTimes["tempos"][number][],
    signatures: [] as MidiTimes["signatures"][number][],
    markers: [] as MidiTimes["markers"][number][],
  };
  let endTick = 0;
  let at = 8 + view.getUint32(4);
  while (at + 8 <= bytes.length) {
    const length = view.getUint32(at + 4);
    const end = at + 8 + length;
    if (ascii(bytes, at) === "MTrk") {
      if (end > bytes.length)
        throw unreadable(
          `Byte ${at + 4}`,
          `a track of ${length} bytes is announced, but the file ends after ${bytes.length - at - 8} of them.`,
        );
      endTick = Math.max(endTick, readTrack(bytes, at + 8, end, found));
    }
    at = end;
  }
  const byTick = <Event extends { tick: number }>(events: Event[]): Event[] => events.sort((a, b) => a.tick - b.tick);
  return {
    division,
    tempos: byTick(found.tempos),
    signatures: byTick(found.signatures),
    markers: byTick(found.markers),
    endTick,
  };
}

interface Found {
  readonly tempos: { tick: number; microsecondsPerQuarter: number }[];
  readonly signatures: { tick: number; numerator: number; denominator: number }[];
  readonly markers: { tick: number; text: string }[];
}

/** Reads a track's events from `at` to `end` into `found`; returns the tick it ends at. */
function readTrack(bytes: Uint8Array, at: number, end: number, found: Found): number {
  let tick = 0;
  let status = 0;
  const byte = (): number => {
    if (at >= end) throw unreadable(`Byte ${at}`, "the track ends within an event.");
    return itemAt(bytes, at++);
  };
  const variable = (): number => {
    let value = 0;
    for (let i = 0; i < 4; i++) {
      const next = byte();
      value = value * 128 + (next & 127);
      if (next < 128) return value;
    }
    throw unreadable(`Byte ${at - 4}`, "a number of variable length has at most four bytes.");
  };
  while (at < end) {
    tick += variable();
    const eventAt = at;
    const first = byte();
    if (first === 0xff) {
      const type = byte();
      const length = variable();
      if (at + length > end) throw unreadable(`Byte ${eventAt}`, "an event reaches beyond its track.");
      const data = bytes.subarray(at, at + length);
      at += length;
      if (type === END_OF_TRACK) return tick;
      if (type === TEMPO && length === 3) {
        const microsecondsPerQuarter = (itemAt(data, 0) << 16) | (itemAt(data, 1) << 8) | itemAt(data, 2);
        if (microsecondsPerQuarter === 0) throw unreadable(`Byte ${eventAt}`, "a quarter note cannot last no time.");
        found.tempos.push({ tick, microsecondsPerQuarter });
      }
      if (type === TIME_SIGNATURE && length >= 2 && itemAt(data, 0) > 0)
        found.signatures.push({ tick, numerator: itemAt(data, 0), denominator: 2 ** itemAt(data, 1) });
      if (type === TEXT_MARKER || type === TEXT_CUE) found.markers.push({ tick, text: fromUtf8(data) });
    } else if (first === 0xf0 || first === 0xf7) {
      at += variable();
    } else {
      if (first >= 0x80) status = first;
      else if (status < 0x80) throw unreadable(`Byte ${eventAt}`, "an event begins without saying what it is.");
      else at--;
      at += (status & 0xf0) === 0xc0 || (status & 0xf0) === 0xd0 ? 1 : 2;
      if (at > end) throw unreadable(`Byte ${eventAt}`, "an event reaches beyond its track.");
    }
  }
  return tick;
}

function variableLength(value: number): number[] {
  const bytes = [value & 127];
  for (let rest = Math.floor(value / 128); rest > 0; rest = Math.floor(rest / 128)) bytes.unshift((rest & 127) | 128);
  return bytes;
}

function bigEndian32(value: number): number[] {
  return [(value >>> 24) & 255, (value >>> 16) & 255, (value >>> 8) & 255, value & 255];
}

function ascii(bytes: Uint8Array, at: number): string {
  return String.fromCharCode(...bytes.subarray(at, at + 4));
}

function utf8(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}

/** UTF-8, or Latin-1 where it is not: the standard fixes no encoding. */
function fromUtf8(bytes: Uint8Array): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return String.fromCharCode(...bytes);
  }
}
