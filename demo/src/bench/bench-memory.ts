import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { Readable } from "node:stream";
import { itemAt, present } from "@humming-tide/core/presence";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { writeWav } from "@humming-tide/core/sound";
import { builtProgram, openStudio } from "@humming-tide/server";
import { different, noisyJpeg } from "./bench-pictures.ts";
import { memoryOfTree } from "./processes.ts";

const SLIDE_COUNTS = [20, 200, 1000];
const SIZE = { width: 2400, height: 1600 };
const LOOK_EVERY_MS = 100;
const BEAT_SECONDS = 0.4;

/**
 * How much memory an export in 1080p holds at most, with its encoders, from few slides to very
 * many: moves and dissolves, a slide a beat at 150 a minute.
 */
export async function benchMemory(): Promise<void> {
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-bench-"));
  try {
    await prepare(folder, Math.max(...SLIDE_COUNTS));
    for (const count of SLIDE_COUNTS) {
      const script = builtProgram(new URL("./export-once.ts", import.meta.url));
      const child = spawn(process.execPath, [script, folder, String(count)], {
        stdio: ["ignore", "pipe", "inherit"],
      });
      const ended = once(child, "exit") as Promise<[number]>;
      let said = "";
      child.stdout.on("data", (text: Buffer) => (said += text.toString()));
      let most = 0;
      const startedAt = performance.now();
      while (child.exitCode === null) {
        most = Math.max(most, await memoryOfTree(present(child.pid)));
        await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
      }
      if ((await ended)[0] !== 0) throw new Error(`The export of ${count} slides failed.`);
      const seconds = Math.round((performance.now() - startedAt) / 1000);
      console.log(`  ${said.trim()}: ${most} MB at most, all processes together, ${seconds} s; wanted: 1,200 MB`);
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** A show of so many pictures of different content. */
async function prepare(folder: string, count: number): Promise<void> {
  const studio = await openStudio(folder);
  try {
    const bases = await Promise.all(Array.from({ length: 8 }, (_, i) => noisyJpeg(SIZE, i, 12)));
    const slides: ShowDocument["slides"] = [];
    for (let i = 0; i < count; i++) {
      const content = different(itemAt(bases, i % bases.length), i);
      const { sha256 } = await studio.library.takeIn(Readable.from([content]), `${i}.jpg`);
      slides.push(newSlide({ id: `s${i}`, sha256, fileName: `${i}.jpg` }));
    }
    const song = await studio.library.takeIn(Readable.from([clicks(BEAT_SECONDS * count + 10)]), "song.wav");
    await studio.shows.create("Bench", {
      ...newShowDocument("Bench"),
      slides,
      songs: [newShowSong({ id: "song 1", sha256: song.sha256, fileName: "song.wav" })],
      lead: { kind: "slides" },
      pace: { kind: "beats", count: 1 },
    });
  } finally {
    await studio.close();
  }
}

/** A short tone on every beat. */
function clicks(seconds: number): Buffer {
  const sampleRate = 48_000;
  const samples = Float32Array.from({ length: Math.round(seconds * sampleRate) }, (_, i) => {
    const since = (i / sampleRate) % BEAT_SECONDS;
    return 0.5 * Math.exp(-60 * since) * Math.sin(2 * Math.PI * 880 * since);
  });
  return Buffer.from(writeWav([samples, samples], sampleRate, 16));
}
