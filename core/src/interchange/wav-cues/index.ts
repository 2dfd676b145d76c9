import { byTime, type MarkerMark, markerKind, unreadable } from "../marks/index.ts";

/**
 * The chunks that hold markers in a RIFF WAVE file: `cue ` with sample positions, and `LIST adtl`
 * with a label ("kind: name") for each. They go at the end of the file, whose RIFF size grows by
 * their length. Source: Microsoft/IBM, Multimedia Programming Interface and Data Specifications 1.0
 * (1991).
 */
export function wavCueChunks(markers: readonly MarkerMark[], sampleRate: number): Uint8Array {
  const sorted = byTime(markers);
  const bytes: number[] = [];
  const text = (value: string): void => void bytes.push(...new TextEncoder().encode(value));
  const number = (value: number): void =>
    void bytes.push(value & 255, (value >>> 8) & 255, (value >>> 16) & 255, (value >>> 24) & 255);
  text("cue ");
  number(4 + 24 * sorted.length);
  number(sorted.length);
  for (const [i, { seconds }] of sorted.entries()) {
    const sample = Math.round(seconds * sampleRate);
    number(i + 1);
    number(sample);
    text("data");
    number(0);
    number(0);
    number(sample);
  }
  const labels = sorted.map(({ name, kind }) => new TextEncoder().encode(`${kind ? `${kind}: ${name}` : name}\0`));
  const padded = (length: number): number => length + (length % 2);
  text("LIST");
  number(4 + labels.reduce((sum, label) => sum + 12 + padded(label.length), 0));
  text("adtl");
  for (const [i, label] of labels.entries()) {
    text("labl");
    number(4 + label.length);
    number(i + 1);
    bytes.push(...label);
    if (label.length % 2) bytes.push(0);
  }
  return Uint8Array.from(bytes);
}

/**
 * A WAV file with these markers at its end; the sound is not touched. Throws `marks-unreadable`
 * where `wav` is no RIFF WAVE.
 */
export function withWavCues(wav: Uint8Array, markers: readonly MarkerMark[]): Uint8Array {
  const { sampleRate, end } = readLayout(wav);
  const chunks = wavCueChunks(markers, sampleRate);
  const result = new Uint8Array(end + (end % 2) + chunks.length);
  result.set(wav.subarray(0, end));
  result.set(chunks, end + (end % 2));
  new DataView(result.buffer).setUint32(4, result.length - 8, true);
  return result;
}

/**
 * The cue points of a RIFF WAVE file with their labels (and notes where there is no label). Throws
 * `marks-unreadable` with the byte.
 */
export function readWavCues(wav: Uint8Array): MarkerMark[] {
  const { sampleRate, chunks } = readLayout(wav);
  const view = new DataView(wav.buffer, wav.byteOffset, wav.byteLength);
  const labels = new Map<number, string>();
  const cues = new Map<number, number>();
  for (const { id, from, to } of chunks) {
    if (id === "cue ") {
      if (to - from < 4) throw unreadable(`Byte ${from}`, "the list of cue points is too short.");
      const count = view.getUint32(from, true);
      if (from + 4 + 24 * count > to)
        throw unreadable(
          `Byte ${from}`,
          `${count} cue points are announced, but there is room for ${Math.floor((to - from - 4) / 24)}.`,
        );
      for (let i = 0; i < count; i++)
        cues.set(view.getUint32(from + 4 + 24 * i, true), view.getUint32(from + 24 + 24 * i, true));
    }
    if (id === "LIST" && to - from >= 4 && ascii(wav, from) === "adtl") readLabels(wav, from + 4, to, labels);
  }
  return byTime(
    [...cues].map(([id, sample]) => {
      const text = labels.get(id) ?? "";
      const [, word = "", name = ""] = /^(\w+): ?(.*)$/s.exec(text) ?? [];
      const kind = markerKind(word);
      return { seconds: sample / sampleRate, name: kind ? name : text, kind };
    }),
  );
}

function readLabels(wav: Uint8Array, from: number, to: number, labels: Map<number, string>): void {
  const view = new DataView(wav.buffer, wav.byteOffset, wav.byteLength);
  for (let at = from; at + 12 <= to; ) {
    const id = ascii(wav, at);
    const length = view.getUint32(at + 4, true);
    const cue = view.getUint32(at + 8, true);
    if ((id === "labl" || (id === "note" && !labels.has(cue))) && at + 8 + length <= to) {
      const text = wav.subarray(at + 12, at + 8 + length);
      const zero = text.indexOf(0);
      labels.set(cue, new TextDecoder().decode(zero < 0 ? text : text.subarray(0, zero)));
    }
    at += 8 + length + (length % 2);
  }
}

interface WavLayout {
  readonly sampleRate: number;
  /** Contents of the chunks, without their headers. */
  readonly chunks: readonly { readonly id: string; readonly from: number; readonly to: number }[];
  readonly end: number;
}

function readLayout(wav: Uint8Array): WavLayout {
  const view = new DataView(wav.buffer, wav.byteOffset, wav.byteLength);
  if (wav.length < 12 || ascii(wav, 0) !== "RIFF" || ascii(wav, 8) !== "WAVE")
    throw unreadable("Byte 0", 'a WAV file begins with "RIFF" and "WAVE".');
  const chunks: { id: string; from: number; to: number }[] = [];
  let sampleRate = 0;
  for (let at = 12; at + 8 <= wav.length; ) {
    const id = ascii(wav, at);
    const length = view.getUint32(at + 4, true);
    const to = Math.min(wav.length, at + 8 + length);
    // A recorder that was cut off leaves a sound chunk that is too long; other chunks may not be.
    if (at + 8 + length > wav.length && id !== "data")
      throw unreadable(`Byte ${at}`, `the chunk "${id}" reaches beyond the end of the file.`);
    if (id === "fmt " && length >= 16) sampleRate = view.getUint32(at + 12, true);
    chunks.push({ id, from: at + 8, to });
    at = at + 8 + length + (length % 2);
  }
  if (sampleRate === 0) throw unreadable("Byte 12", "it does not say its sample rate.");
  return { sampleRate, chunks, end: wav.length };
}

function ascii(bytes: Uint8Array, at: number): string {
  return String.fromCharCode(...bytes.subarray(at, at + 4));
}
