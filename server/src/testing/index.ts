import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { present } from "@humming-tide/core/presence";
import { writeWav } from "@humming-tide/core/sound";
import sharp from "sharp";

/** A folder for one test file, removed at its end by the function given back. */
export async function temporaryFolder(): Promise<{ folder: string; remove: () => Promise<void> }> {
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-test-"));
  return { folder, remove: () => rm(folder, { recursive: true, force: true }) };
}

/** A JPEG that is told apart from every other by its stripes, whatever its number. */
export function stripedJpeg(number: number, width = 480, height = 320): Promise<Buffer> {
  const pixels = Buffer.alloc(width * height * 3);
  const hue = (number * 2.399963) % (2 * Math.PI);
  const [bright, dark] = [1, 0.45].map((light) =>
    [0, 1, 2].map((channel) => Math.round(light * (128 + 110 * Math.sin(hue + channel * 2.1)))),
  );
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const isBright = Math.sin((x * (1 + (number % 5)) + y * (number % 7)) / 40) > 0;
      pixels.set(present(isBright ? bright : dark), (y * width + x) * 3);
    }
  }
  return sharp(pixels, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90 })
    .toBuffer();
}

/** Writes 1.jpg to COUNT.jpg. */
export async function writePictures(folder: string, count: number): Promise<void> {
  await mkdir(folder, { recursive: true });
  for (let i = 1; i <= count; i++) await writeFile(path.join(folder, `${i}.jpg`), await stripedJpeg(i));
}

export interface ClickSong {
  /** 16-bit mono WAV at 44.1 kHz. */
  readonly wav: Buffer;
  readonly beatSeconds: readonly number[];
}

/** Clicks over a soft tone, every fourth one lower: beats and bars are known exactly. */
export function clickSong(seconds: number, bpm = 120, firstBeatSeconds = 0.5): ClickSong {
  const rate = 44_100;
  const samples = new Float32Array(Math.round(seconds * rate));
  for (let i = 0; i < samples.length; i++) samples[i] = 0.05 * Math.sin(i * 0.03 + 2 * Math.sin(i * 0.00007));
  const beatSeconds: number[] = [];
  for (let beat = 0; firstBeatSeconds + (beat * 60) / bpm < seconds - 0.2; beat++) {
    const time = firstBeatSeconds + (beat * 60) / bpm;
    beatSeconds.push(time);
    const from = Math.round(time * rate);
    const [pitch, level] = beat % 4 === 0 ? [0.02, 0.7] : [0.2, 0.45];
    for (let i = 0; i < 4000 && from + i < samples.length; i++) {
      samples[from + i]! += level * Math.sin(i * pitch) * Math.exp(-i / 700);
    }
  }
  return { wav: monoWav(samples, rate), beatSeconds };
}

export const monoWav = (samples: Float32Array, rate: number): Buffer => Buffer.from(writeWav([samples], rate, 16));

/** Makes an empty show on a running server; gives its id. */
export async function createShow(address: string, title = "Regatta"): Promise<string> {
  const response = await fetch(`${address}/api/shows`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ title }),
  });
  return ((await response.json()) as { id: string }).id;
}

/** Announces and sends one file as a page does. */
export async function sendFile(
  address: string,
  showId: string,
  content: Uint8Array,
  filePath: string,
): Promise<{ status: number; body: { sha256: string; message: string } }> {
  const announced = await fetch(`${address}/api/shows/${showId}/intake`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ files: [{ path: filePath, bytes: content.length, modifiedMs: 1 }] }),
  });
  const [{ id }] = (await announced.json()) as [{ id: string }];
  const response = await fetch(`${address}/api/shows/${showId}/intake/${id}`, {
    method: "PUT",
    body: new Uint8Array(content),
  });
  return { status: response.status, body: (await response.json()) as { sha256: string; message: string } };
}

export { clipFrame } from "./clip-frame.ts";
export { drawnFaces } from "./drawn-faces.ts";
export { NUMBERED_CLIP, numberedClip, readNumber } from "./numbered-clip.ts";
export { type Patch, type PatchClip, patchClip, writtenPatch } from "./patch-clip.ts";
export { ffmpeg } from "./run-ffmpeg.ts";
