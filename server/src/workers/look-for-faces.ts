import type { Worker } from "node:worker_threads";
import type { FoundFace } from "@humming-tide/core/picture";
import type { FaceSides } from "../media/face-network.ts";
import type { FaceRaster } from "../media/turned-parts.ts";
import { startWorker } from "./start-worker.ts";

export interface FaceQuestion {
  readonly id: number;
  readonly raster: FaceRaster;
  readonly sides: FaceSides;
}

export interface FaceAnswer {
  readonly id: number;
  /** Null where they cannot be looked for. */
  readonly faces: readonly FoundFace[] | null;
}

type Waiting = (faces: FaceAnswer["faces"]) => void;

let worker: Worker | null = null;
const waiting = new Map<number, Waiting>();
let asked = 0;
let isPossible = true;

/** False from the first picture on whose faces could not be looked for on this machine. */
export const canLookForFaces = (): boolean => isPossible;

/**
 * Looks for faces in a picture (whose pixels are given away) on a thread of its own, one picture
 * after the other. The thread is started with the first picture and keeps no program alive. Null
 * where the runtime does not know this machine, or the thread dies: the picture comes in without.
 */
export async function lookForFaces(
  raster: FaceRaster,
  sides: FaceSides = "any-side",
): Promise<readonly FoundFace[] | null> {
  if (!isPossible) return null;
  worker ??= started();
  const thread = worker;
  const id = asked++;
  return new Promise((resolve) => {
    waiting.set(id, resolve);
    thread.ref();
    thread.postMessage({ id, raster, sides } satisfies FaceQuestion, [raster.pixels.buffer as ArrayBuffer]);
  });
}

function started(): Worker {
  const thread = startWorker(new URL("./face-worker.ts", import.meta.url), null);
  const settle = (id: number, faces: FaceAnswer["faces"]): void => {
    waiting.get(id)?.(faces);
    waiting.delete(id);
    if (waiting.size === 0) thread.unref();
  };
  thread.on("message", ({ id, faces }: FaceAnswer) => {
    if (faces === null) isPossible = false;
    settle(id, faces);
  });
  const gone = (): void => {
    if (worker === thread) worker = null;
    for (const id of [...waiting.keys()]) settle(id, null);
  };
  thread.on("error", (error) => {
    console.error(`The thread that looks for faces ended: ${error.message}`);
    gone();
  });
  thread.on("exit", gone);
  return thread;
}
