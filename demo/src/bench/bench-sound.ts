import { present } from "@humming-tide/core/presence";
import {
  MasteredMix,
  MasterMeasure,
  memorySource,
  musicLevel,
  risingPower,
  type SampleSource,
  SoundMixer,
  type SoundPiece,
  type SoundPlan,
  sinkingPower,
} from "@humming-tide/core/sound";
import { Random } from "../random.ts";

const RATE = 48_000;
const MINUTES = 10;
const LENGTH = 60 * MINUTES;
const SONG_SECONDS = LENGTH / 3 + 8;

/**
 * Ten minutes of film: three songs with stretched crossfades, twenty voices, ten clips (two of them
 * at another speed). How many times faster than it plays it is mixed, measured and brought to its
 * loudness.
 */
export function benchSound(): void {
  const random = new Random(4);
  const noise = (seconds: number): SampleSource => {
    const samples = Float32Array.from({ length: seconds * RATE }, () => 0.3 * random.between(-1, 1));
    return memorySource([samples, samples]);
  };
  const [song, speech] = [noise(SONG_SECONDS), noise(12)];
  const plan = tenMinutes();
  const sourceOf = (name: string): SampleSource => (name === "song" ? song : speech);
  const times = (work: () => void): string => {
    const from = performance.now();
    work();
    return (LENGTH / ((performance.now() - from) / 1000)).toFixed(0);
  };
  const mix = new SoundMixer(plan, RATE, sourceOf);
  console.log(`  mixed: ${times(() => renderAll(mix))} times as fast as it plays; wanted: 50`);
  const measured = new MasterMeasure(new SoundMixer(plan, RATE, sourceOf), present(plan.master));
  console.log(
    `  mixed and measured: ${times(() => {
      while (!measured.done) measured.step();
      measured.result();
    })} times`,
  );
  const { gainDecibels, ceilingDbtp } = measured.result();
  const mastered = new MasteredMix(new SoundMixer(plan, RATE, sourceOf), RATE, gainDecibels, ceilingDbtp);
  console.log(`  mixed with the limiter, as the film has it: ${times(() => renderAll(mastered))} times`);
}

function renderAll(mix: { readonly frameCount: number; render: (first: number, count: number) => unknown }): void {
  for (let at = 0; at < mix.frameCount; at += RATE) mix.render(at, Math.min(RATE, mix.frameCount - at));
}

function tenMinutes(): SoundPlan {
  const songs = [0, 1, 2].map((i): SoundPiece => {
    const start = (i * LENGTH) / 3;
    const end = Math.min(LENGTH, start + LENGTH / 3 + 8);
    return {
      owner: { kind: "song", id: `song ${i}` },
      soundName: "song",
      // Over the crossfades both songs are stretched to a common tempo.
      time: [
        { filmSeconds: start, soundSeconds: 0 },
        { filmSeconds: start + 8, soundSeconds: 8.4 },
        { filmSeconds: end - 8, soundSeconds: end - start - 7.6 },
        { filmSeconds: end, soundSeconds: end - start + 0.2 },
      ],
      gain: i === 0 ? sinkingPower(end - 8, end) : risingPower(start, start + 8),
    };
  });
  const spoken = (kind: "voice" | "clip", count: number, seconds: number): SoundPiece[] =>
    Array.from({ length: count }, (_, i): SoundPiece => {
      const start = 5 + (i * (LENGTH - 30)) / count;
      const speed = kind === "clip" && i % 5 === 0 ? 0.5 : 1;
      return {
        owner: { kind, id: String(i) },
        soundName: "speech",
        time: [
          { filmSeconds: start, soundSeconds: 0 },
          { filmSeconds: start + seconds, soundSeconds: seconds * speed },
        ],
        gain: risingPower(start, start + 0.3),
      };
    });
  const { gain, fadeOut } = musicLevel(LENGTH, []);
  return {
    pieces: [...songs, ...spoken("voice", 20, 10), ...spoken("clip", 10, 6)],
    lengthSeconds: LENGTH,
    musicGain: gain,
    fadeOut,
    master: { targetLufs: -14, ceilingDbtp: -1.5 },
  };
}
