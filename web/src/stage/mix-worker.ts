import {
  type Master,
  MasterMeasure,
  memorySource,
  type SampleSource,
  SoundMixer,
  type SoundPlan,
  type Stereo,
} from "@humming-tide/core/sound";
import { type MixChunk, MixStream, type StreamWish } from "./mix-stream.ts";

/** Sounds arrive in slices, so that the page is never held up by copying a whole one. */
export type MixRequest =
  | { readonly kind: "sound"; readonly name: string; readonly frameCount: number }
  | { readonly kind: "slice"; readonly name: string; readonly from: number; readonly channels: Stereo }
  | { readonly kind: "start"; readonly stream: number; readonly wish: StreamWish; readonly sampleRate: number }
  /** So many chunks more. */
  | { readonly kind: "more"; readonly stream: number; readonly count: number }
  /** Measures the whole mix and finds its level; a newer question ends an older one. */
  | { readonly kind: "measure"; readonly question: number; readonly sound: SoundPlan; readonly sampleRate: number };

export type MixAnswer =
  | (MixChunk & { readonly kind: "chunk"; readonly stream: number })
  | { readonly kind: "measuring"; readonly question: number; readonly progress: number }
  | { readonly kind: "measured"; readonly question: number; readonly master: Master };

const sounds = new Map<string, Stereo>();
const silent = memorySource([new Float32Array(0), new Float32Array(0)]);
let current: { readonly number: number; readonly stream: MixStream } | null = null;

let measuring = 0;

const sourceOf = (name: string): SampleSource => {
  const sound = sounds.get(name);
  return sound ? memorySource(sound) : silent;
};

/** Between two turns of measuring whatever is to be played is mixed. */
const MEASURING_TURN_MS = 60;

async function measure(question: number, sound: SoundPlan, sampleRate: number): Promise<void> {
  measuring = question;
  if (!sound.master) return;
  const measured = new MasterMeasure(new SoundMixer(sound, sampleRate, sourceOf), sound.master);
  while (!measured.done) {
    const from = performance.now();
    while (!measured.done && performance.now() - from < MEASURING_TURN_MS) measured.step();
    post({ kind: "measuring", question, progress: measured.progress });
    await new Promise((resolve) => setTimeout(resolve, 0));
    if (measuring !== question) return;
  }
  post({ kind: "measured", question, master: measured.result() });
}

const post = (answer: MixAnswer, transfer: Transferable[] = []): void => self.postMessage(answer, { transfer });

self.onmessage = ({ data }: MessageEvent<MixRequest>) => {
  if (data.kind === "sound") {
    sounds.set(data.name, [new Float32Array(data.frameCount), new Float32Array(data.frameCount)]);
  } else if (data.kind === "slice") {
    const sound = sounds.get(data.name);
    for (const channel of [0, 1] as const) sound?.[channel].set(data.channels[channel], data.from);
  } else if (data.kind === "measure") {
    void measure(data.question, data.sound, data.sampleRate);
  } else if (data.kind === "start") {
    current = { number: data.stream, stream: new MixStream(data.wish, data.sampleRate, sourceOf) };
  } else if (current?.number === data.stream) {
    for (let i = 0; i < data.count; i++) {
      const chunk = current.stream.next();
      post(
        { kind: "chunk", stream: data.stream, ...chunk },
        chunk.channels.map((samples) => samples.buffer),
      );
      if (chunk.ends) break;
    }
  }
};
