import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import type { IntakeFile, SavedShow } from "@humming-tide/contract";
import { itemAt, present } from "@humming-tide/core/presence";
import { builtProgram } from "@humming-tide/server";
import { CLIPS } from "../clips/clips.ts";
import { encodeClip } from "../clips/encode-clip.ts";
import { different, noisyJpeg } from "./bench-pictures.ts";
import { memoryOf } from "./processes.ts";

const PICTURES = 1024;
const CLIP_COUNT = 20;
/** As the page sends (web/src/intake/intake.ts). */
const AT_ONCE = 4;
const SIZE = { width: 4000, height: 3000 };

/**
 * A wedding's worth of 12-million-pixel pictures and clips through a real server: how fast, and how
 * much memory at most.
 */
export async function benchIntake(): Promise<void> {
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-bench-"));
  const server = spawn(
    process.execPath,
    [
      builtProgram(new URL("../../../server/src/main.ts", import.meta.url)),
      "--data",
      path.join(folder, "data"),
      "--port",
      "0",
    ],
    { stdio: ["ignore", "pipe", "inherit"] },
  );
  try {
    const address = await addressOf(server.stdout);
    const bases = await Promise.all(Array.from({ length: 12 }, (_, i) => noisyJpeg(SIZE, i)));
    const clipPath = path.join(folder, "clip.mp4");
    await encodeClip(itemAt(CLIPS, 0), clipPath);
    const clip = await readFile(clipPath);
    const before = await memoryOf(present(server.pid));
    const result = await bringIn(address, present(server.pid), (index) =>
      index < PICTURES ? different(itemAt(bases, index % bases.length), index) : different(clip, index),
    );
    const peak = await memoryOf(present(server.pid), "VmHWM");
    const megabytes = Math.round(result.bytes / 1e6);
    console.log(
      `Intake of ${PICTURES} pictures (${SIZE.width} x ${SIZE.height}) and ${CLIP_COUNT} clips, ${megabytes} MB`,
    );
    console.log(`  ${result.seconds.toFixed(0)} s, ${(result.files / result.seconds).toFixed(1)} files a second`);
    console.log(`  first thumbnail after ${result.firstThumbnailSeconds.toFixed(1)} s`);
    console.log(
      `  memory of the server: ${before} MB before, ${result.memories.join(", ")} MB on the way, ${peak} MB at most`,
    );
  } finally {
    server.kill("SIGTERM");
    if (server.exitCode === null) await once(server, "exit");
    await rm(folder, { recursive: true, force: true });
  }
}

async function addressOf(output: AsyncIterable<unknown>): Promise<string> {
  let text = "";
  for await (const chunk of output) {
    text += String(chunk);
    const match = /ready: (\S+)/.exec(text);
    if (match) return itemAt(match, 1);
  }
  throw new Error(`The server did not start: ${text}`);
}

interface Result {
  readonly files: number;
  readonly bytes: number;
  readonly seconds: number;
  readonly firstThumbnailSeconds: number;
  /** Megabytes, at each quarter. */
  readonly memories: readonly number[];
}

async function bringIn(address: string, processId: number, contentOf: (index: number) => Buffer): Promise<Result> {
  const json = (body: unknown): RequestInit => ({
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  const show = (await (await fetch(`${address}/api/shows`, json({ title: "Bench" }))).json()) as SavedShow;
  const count = PICTURES + CLIP_COUNT;
  const files = Array.from({ length: count }, (_, i) => ({ path: `card/${i}.jpg`, bytes: 1, modifiedMs: i }));
  const startedAt = performance.now();
  const announced = (await (
    await fetch(`${address}/api/shows/${show.id}/intake`, json({ files }))
  ).json()) as IntakeFile[];
  let firstThumbnailSeconds = 0;
  let bytes = 0;
  let done = 0;
  let next = 0;
  const memories: number[] = [];
  const work = async (): Promise<void> => {
    for (let index = next++; index < count; index = next++) {
      const body = contentOf(index);
      bytes += body.length;
      const answer = await fetch(`${address}/api/shows/${show.id}/intake/${itemAt(announced, index).id}`, {
        method: "PUT",
        body: new Uint8Array(body),
      });
      if (!answer.ok) throw new Error(`File ${index} was refused: ${await answer.text()}`);
      const { sha256 } = (await answer.json()) as { sha256: string };
      if (firstThumbnailSeconds === 0) {
        await (await fetch(`${address}/api/media/${sha256}/thumbnail`)).arrayBuffer();
        firstThumbnailSeconds ||= (performance.now() - startedAt) / 1000;
      }
      if (++done % Math.ceil(count / 4) === 0) memories.push(await memoryOf(processId));
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return { files: count, bytes, seconds: (performance.now() - startedAt) / 1000, firstThumbnailSeconds, memories };
}
