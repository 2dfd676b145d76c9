import { memorySource, type SampleSource, type Stereo } from "@humming-tide/core/sound";
import { type MixChunk, MixStream, type StreamWish } from "./mix-stream.ts";

/** Songs arrive in slices, so that the page is never held up by copying a whole one. */
export type MixRequest =
  | { readonly kind: "song"; readonly sha256: string; readonly frameCount: number }
  | { readonly kind: "slice"; readonly sha256: string; readonly from: number; readonly channels: Stereo }
  | { readonly kind: "start"; readonly stream: number; readonly wish: StreamWish; readonly sampleRate: number }
  /** So many chunks more. */
  | { readonly kind: "more"; readonly stream: number; readonly count: number };

export interface MixAnswer extends MixChunk {
  readonly stream: number;
}

const songs = new Map<string, Stereo>();
const silent = memorySource([new Float32Array(0), new Float32Array(0)]);
let current: { readonly number: number; readonly stream: MixStream } | null = null;

const sourceOf = (sha256: string): SampleSource => {
  const song = songs.get(sha256);
  return song ? memorySource(song) : silent;
};

self.onmessage = ({ data }: MessageEvent<MixRequest>) => {
  if (data.kind === "song") {
    songs.set(data.sha256, [new Float32Array(data.frameCount), new Float32Array(data.frameCount)]);
  } else if (data.kind === "slice") {
    const song = songs.get(data.sha256);
    for (const channel of [0, 1] as const) song?.[channel].set(data.channels[channel], data.from);
  } else if (data.kind === "start") {
    current = { number: data.stream, stream: new MixStream(data.wish, data.sampleRate, sourceOf) };
  } else if (current?.number === data.stream) {
    for (let i = 0; i < data.count; i++) {
      const chunk = current.stream.next();
      const answer: MixAnswer = { stream: data.stream, ...chunk };
      self.postMessage(answer, { transfer: chunk.channels.map((samples) => samples.buffer) });
      if (chunk.ends) break;
    }
  }
};
