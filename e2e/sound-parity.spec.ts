import { execFileSync } from "node:child_process";
import { itemAt, lastOf, present, valueFor } from "@humming-tide/core/presence";
import {
  decibels,
  gainAt,
  memorySource,
  type SampleSource,
  SoundMixer,
  type SoundPlan,
} from "@humming-tide/core/sound";
import { expect, type Page, test } from "@playwright/test";
import { copyDemo, plannedFilm, type RunningApp, showsOf, startApp } from "./running-app.ts";

const RATE = 48_000;
const SECONDS = 40;
let app: RunningApp;

test.beforeAll(async () => {
  app = await startApp(copyDemo);
});
test.afterAll(() => app.close());

test("Chromium's own audio graph, built from the plan, gives what the mixer gives", async ({ page }) => {
  const [show] = await showsOf(app);
  const { sound } = await plannedFilm(app, present(show).id);
  const kinds = new Set(sound.pieces.map(({ owner }) => owner.kind));
  expect([...kinds].sort()).toEqual(["song", "voice"]);
  await page.goto(app.address);
  const graph = await renderedByChromium(page, sound);
  const sources = new Map<string, SampleSource>();
  for (const { soundName } of sound.pieces) sources.set(soundName, await decoded(soundName));
  const mixed = new SoundMixer(sound, RATE, (name) => valueFor(sources, name)).render(0, SECONDS * RATE);
  for (const channel of [0, 1] as const) {
    const [ours, theirs] = [mixed[channel], graph.subarray(channel * SECONDS * RATE, (channel + 1) * SECONDS * RATE)];
    const level = rms(ours);
    expect(level).toBeGreaterThan(0.01);
    const apart = decibels(rms(ours.map((sample, i) => sample - itemAt(theirs, i))) / level);
    if (process.env["SAY_PARITY"]) console.log(`${apart.toFixed(1)} dB`);
    expect(apart).toBeLessThan(-60);
  }
});

const rms = (samples: Float32Array): number =>
  Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length);

async function decoded(soundName: string): Promise<SampleSource> {
  const flac = Buffer.from(await (await fetch(`${app.address}/api/media/${soundName}/sound`)).arrayBuffer());
  const raw = execFileSync("ffmpeg", ["-v", "error", "-i", "pipe:0", "-f", "f32le", "pipe:1"], {
    input: flac,
    maxBuffer: 2 ** 30,
  });
  const both = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
  const side = (channel: number): Float32Array =>
    Float32Array.from({ length: both.length / 2 }, (_, i) => itemAt(both, 2 * i + channel));
  return memorySource([side(0), side(1)]);
}

/**
 * Buffer sources and gains with ramps, in an OfflineAudioContext: both channels, one behind the
 * other.
 */
async function renderedByChromium(page: Page, sound: SoundPlan): Promise<Float32Array> {
  const ramps = (curve: SoundPlan["musicGain"]): { seconds: number; gain: number }[] => [
    { seconds: 0, gain: gainAt(curve, 0) },
    ...curve.filter(({ seconds }) => seconds > 0),
  ];
  const pieces = sound.pieces.map(({ owner, soundName, time, gain }) => {
    const [first, last] = [itemAt(time, 0), lastOf(time)];
    // Speeds of 1 only: others are the mixer's own art.
    expect((last.soundSeconds - first.soundSeconds) / (last.filmSeconds - first.filmSeconds)).toBeCloseTo(1, 9);
    const frame = (seconds: number): number => Math.round(seconds * 48_000) / 48_000;
    return {
      isSong: owner.kind === "song",
      url: `/api/media/${soundName}/sound`,
      when: frame(first.filmSeconds),
      offset: frame(first.soundSeconds),
      duration: frame(last.filmSeconds) - frame(first.filmSeconds),
      ramps: ramps(gain),
    };
  });
  const text = await page.evaluate(
    async ({ pieces: list, music, seconds }) => {
      const context = new OfflineAudioContext(2, seconds * 48_000, 48_000);
      const bus = new GainNode(context, { gain: music[0]!.gain });
      bus.connect(context.destination);
      bus.gain.setValueAtTime(music[0]!.gain, 0);
      for (const point of music.slice(1)) bus.gain.linearRampToValueAtTime(point.gain, point.seconds);
      for (const piece of list) {
        const bytes = await (await fetch(piece.url)).arrayBuffer();
        const source = new AudioBufferSourceNode(context, { buffer: await context.decodeAudioData(bytes) });
        const gain = new GainNode(context, { gain: piece.ramps[0]!.gain });
        gain.gain.setValueAtTime(piece.ramps[0]!.gain, 0);
        for (const point of piece.ramps.slice(1)) gain.gain.linearRampToValueAtTime(point.gain, point.seconds);
        source.connect(gain).connect(piece.isSong ? bus : context.destination);
        source.start(piece.when, piece.offset, piece.duration);
      }
      const rendered = await context.startRendering();
      const both = new Float32Array(2 * rendered.length);
      both.set(rendered.getChannelData(0));
      both.set(rendered.getChannelData(1), rendered.length);
      const bytes = new Uint8Array(both.buffer);
      let letters = "";
      for (let at = 0; at < bytes.length; at += 32_768)
        letters += String.fromCharCode(...bytes.subarray(at, at + 32_768));
      return btoa(letters);
    },
    { pieces, music: ramps(sound.musicGain), seconds: SECONDS },
  );
  const bytes = Buffer.from(text, "base64");
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}
