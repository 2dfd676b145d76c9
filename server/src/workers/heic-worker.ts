import { readFile } from "node:fs/promises";
import { parentPort } from "node:worker_threads";
import { present } from "@humming-tide/core/presence";
import decode from "heic-decode";
import type { HeicAnswer } from "./decode-heic.ts";

present(parentPort).once("message", (path: string) => {
  void answer(path).then((message) => present(parentPort).postMessage(message));
});

async function answer(path: string): Promise<HeicAnswer> {
  try {
    const { width, height, data } = await decode({ buffer: await readFile(path) });
    return { width, height, pixels: new Uint8Array(data.buffer, data.byteOffset, data.byteLength) };
  } catch (error) {
    return { failure: (error as Error).message };
  }
}
