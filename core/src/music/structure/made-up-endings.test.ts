import { describe, expect, it } from "vitest";
import { seededRandom } from "../../testing/index.ts";
import { energyCurve } from "../signal/energy.ts";
import { onsetStrength } from "../signal/onset-strength.ts";
import { spectrogram } from "../signal/spectrogram.ts";
import { findAccents } from "./accents.ts";
import { applauseStart } from "./applause.ts";
import { type Ending, findEnding } from "./ending.ts";

const RATE = 22_050;
const SECONDS = 20;
const BEAT_SECONDS = 0.5;
/** Where the last chord is struck. */
const LAST_SECONDS = 8;
const SILENCE_RATIO = 10 ** (-45 / 20);

type Kind = "fade" | "chord" | "cut" | "applause";

/** A made-up end and the truth about it. */
interface MadeUp {
  readonly samples: Float32Array;
  readonly endSeconds: number;
}

/** Chords and hats on beats up to the last chord, and what comes behind it. */
function madeUp(kind: Kind, seed: number): MadeUp {
  const random = seededRandom(seed);
  const between = (low: number, high: number): number => low + (high - low) * random();
  const samples = new Float32Array(SECONDS * RATE);
  const root = between(110, 200);
  const decay = kind === "cut" ? 5 : between(0.6, 2.2);
  const isFading = kind === "fade";
  const notes = [1, 1.25, 1.5, 2].map((ratio) => root * ratio * (1 + 0.001 * between(-1, 1)));
  const chord = (seconds: number, tau: number): Float32Array =>
    Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => {
      const t = i / RATE;
      const level = 0.08 * Math.min(1, t / 0.005) * Math.exp(-t / tau);
      const tone = (hz: number): number => Math.sin(2 * Math.PI * hz * t) + 0.5 * Math.sin(4 * Math.PI * hz * t);
      return level * notes.reduce((sum, hz) => sum + tone(hz) + 0.3 * Math.sin(8 * Math.PI * hz * t), 0);
    });
  const strike = (at: number, sound: Float32Array): void => {
    const first = Math.round(at * RATE);
    for (let i = 0; i < Math.min(sound.length, samples.length - first); i++) samples[first + i]! += sound[i]!;
  };
  const short = chord(2.5, 0.4);
  const beats = isFading ? SECONDS / BEAT_SECONDS : LAST_SECONDS / BEAT_SECONDS;
  for (let beat = 0; beat < beats; beat++) {
    strike(beat * BEAT_SECONDS, short);
    const from = Math.round((beat + 0.5) * BEAT_SECONDS * RATE);
    for (let i = 0; i < 800; i++) samples[from + i]! += 0.1 * between(-1, 1) * Math.exp(-i / 200);
  }
  if (!isFading) strike(LAST_SECONDS, chord(SECONDS - LAST_SECONDS, decay));
  const loudest = Math.max(...energyCurve({ samples, sampleRate: RATE }).values);
  const softerThan = (level: number, from: number): number => {
    const curve = energyCurve({ samples, sampleRate: RATE });
    const step = curve.values.findIndex((value, i) => i * curve.stepSeconds >= from && value < level);
    return step < 0 ? SECONDS : step * curve.stepSeconds;
  };
  if (kind === "fade") {
    const from = between(5, 9);
    const decibelsPerSecond = between(4.5, 8);
    for (let i = Math.round(from * RATE); i < samples.length; i++)
      samples[i]! *= 10 ** ((-decibelsPerSecond * (i / RATE - from)) / 20);
    return { samples, endSeconds: Math.min(SECONDS, from + 45 / decibelsPerSecond) };
  }
  if (kind === "cut") {
    const endSeconds = LAST_SECONDS + between(0.5, 2);
    samples.fill(0, Math.round(endSeconds * RATE));
    return { samples, endSeconds };
  }
  if (kind === "chord") return { samples, endSeconds: softerThan(loudest * SILENCE_RATIO, LAST_SECONDS) };
  // Hands: noise that swells for half a second, stays and thins out.
  const from = LAST_SECONDS + between(0.5, 3);
  const level = loudest * 10 ** (between(-18, -4) / 20);
  const endSeconds = Math.max(from, softerThan(level, LAST_SECONDS));
  const stays = between(3, 7);
  let [low, before] = [0, 0];
  for (let i = Math.round(from * RATE); i < samples.length; i++) {
    const t = i / RATE - from;
    const white = between(-1, 1);
    low = 0.75 * low + white;
    samples[i]! += level * 1.1 * Math.min(1, t / 0.5) * Math.min(1, Math.exp((stays - t) / 1.2)) * (low - 0.6 * before);
    before = low;
  }
  return { samples, endSeconds };
}

function endingOf(samples: Float32Array): Ending {
  const audio = { samples, sampleRate: RATE };
  const spectrum = spectrogram(audio);
  const accents = findAccents(audio, onsetStrength(spectrum).all).map(({ seconds }) => seconds);
  return findEnding(energyCurve(audio), accents, SECONDS, applauseStart(spectrum, LAST_SECONDS));
}

describe("made-up ends of songs", () => {
  const kinds: readonly Kind[] = ["fade", "chord", "cut", "applause"];

  it("have no applause where the music goes on", () => {
    const { samples } = madeUp("applause", 7);
    expect(applauseStart(spectrogram({ samples, sampleRate: RATE }), SECONDS)).toBeNull();
  });

  it.each(kinds)(
    "are found within half a second in 24 of 25: %s",
    (kind) => {
      const misses = Array.from({ length: 25 }, (_, i) => {
        const { samples, endSeconds } = madeUp(kind, 1000 * kinds.indexOf(kind) + i);
        return Math.abs(endingOf(samples).endSeconds - endSeconds);
      });
      expect(misses.filter((miss) => miss > 0.5).length, misses.map((miss) => miss.toFixed(1)).join(" ")).toBeLessThan(
        2,
      );
    },
    120_000,
  );
});
