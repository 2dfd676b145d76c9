import { createHash, randomUUID } from "node:crypto";
import { lstat, mkdir, open, readdir, rm } from "node:fs/promises";
import path from "node:path";
import { setTimeout } from "node:timers/promises";
import express, { Router } from "express";
import { z } from "zod";
import { Refusal } from "./refusal.ts";
import type { Troubles } from "./troubles.ts";

/**
 * Bytes of recordable discs with one layer and with two, as they are sold as 4.7 and 8.5 GB (from
 * memory).
 */
export const DISC_BYTES = { single: 4_707_319_808, double: 8_543_666_176 } as const;
type DiscKind = keyof typeof DISC_BYTES;

interface Medium {
  readonly kind: DiscKind;
  readonly state: "blank" | "written" | "spoilt";
  readonly label: string | null;
}
interface Burn {
  readonly id: string;
  state: "writing" | "verifying" | "done" | "failed" | "cancelled";
  /** 0 to 1 of writing, then of verifying. */
  progress: number;
  error: string | null;
}
interface DiscFile {
  readonly name: string;
  readonly bytes: number;
}

const PIECE_BYTES = 1 << 20;
const SECTOR_BYTES = 2048;

/**
 * A made-up drive that writes discs: its discs are folders. What it writes it reads again and
 * compares.
 */
export class Drive {
  readonly #folder: string;
  readonly #troubles: Troubles;
  readonly #bytesPerSecond: number;
  readonly #burns = new Map<string, Burn>();
  #medium: Medium | null = null;
  #burning: { readonly burn: Burn; readonly stopping: AbortController; readonly finished: Promise<void> } | null = null;

  constructor(folder: string, troubles: Troubles, bytesPerSecond: number) {
    this.#folder = folder;
    this.#troubles = troubles;
    this.#bytesPerSecond = bytesPerSecond;
  }

  get state(): { readonly medium: (Medium & { readonly bytes: number }) | null; readonly isBusy: boolean } {
    const medium = this.#medium && { ...this.#medium, bytes: DISC_BYTES[this.#medium.kind] };
    return { medium, isBusy: this.#burning !== null };
  }

  /** A new disc in place of the one that is in the tray. */
  insert(kind: DiscKind): void {
    if (this.#burning) throw new Refusal(409, "The drive is writing: the tray stays shut.");
    this.#medium = { kind, state: "blank", label: null };
  }

  /** Begins to write a folder. Refused without a blank disc that it fits on. */
  async begin(source: string, label: string): Promise<Burn> {
    if (this.#burning) throw new Refusal(409, "The drive is writing already.");
    if (!this.#medium) throw new Refusal(409, "There is no disc in the drive.");
    if (this.#medium.state !== "blank")
      throw new Refusal(409, "The disc in the drive is not blank. Put in another one.");
    const files = await filesIn(source);
    const bytes = files.reduce((sum, file) => sum + Math.ceil(file.bytes / SECTOR_BYTES) * SECTOR_BYTES, 0);
    if (bytes > DISC_BYTES[this.#medium.kind]) throw new Refusal(413, "The folder is larger than the disc.");
    const burn: Burn = { id: randomUUID(), state: "writing", progress: 0, error: null };
    this.#burns.set(burn.id, burn);
    const stopping = new AbortController();
    // From the first byte on the disc is no longer blank.
    this.#medium = { ...this.#medium, state: "spoilt", label };
    const finished = this.#write(burn, source, files, stopping.signal).finally(() => {
      this.#burning = null;
    });
    this.#burning = { burn, stopping, finished };
    return burn;
  }

  get(id: string): Burn {
    const burn = this.#burns.get(id);
    if (!burn) throw new Refusal(404, "There is no such burn.");
    return burn;
  }

  /** The disc is spoilt by it. */
  async cancel(id: string): Promise<void> {
    this.get(id);
    if (this.#burning?.burn.id !== id) return;
    this.#burning.stopping.abort();
    await this.#burning.finished;
  }

  async close(): Promise<void> {
    this.#burning?.stopping.abort();
    await this.#burning?.finished;
  }

  async #write(burn: Burn, source: string, files: readonly DiscFile[], signal: AbortSignal): Promise<void> {
    const disc = path.join(this.#folder, burn.id);
    const total = Math.max(
      1,
      files.reduce((sum, { bytes }) => sum + bytes, 0),
    );
    const failsAt = this.#troubles.happens("disc-write-fails") ? total / 2 : Number.POSITIVE_INFINITY;
    try {
      let done = 0;
      const sums = new Map<string, string>();
      for (const { name } of files) {
        const place = path.join(disc, name);
        await mkdir(path.dirname(place), { recursive: true });
        const hash = createHash("sha256");
        await pieces(path.join(source, name), place, async (piece) => {
          hash.update(piece);
          done += piece.length;
          if (done > failsAt)
            throw new Error("The laser lost the track. The disc is spoilt: put in a new one and burn again.");
          burn.progress = done / total;
          await setTimeout((1000 * piece.length) / this.#bytesPerSecond, undefined, { signal });
        });
        sums.set(name, hash.digest("hex"));
      }
      burn.state = "verifying";
      burn.progress = 0;
      const last = files.at(-1);
      if (last && this.#troubles.happens("disc-verify-fails")) await spoil(path.join(disc, last.name));
      let read = 0;
      for (const { name } of files) {
        const hash = createHash("sha256");
        await pieces(path.join(disc, name), null, (piece) => {
          signal.throwIfAborted();
          hash.update(piece);
          read += piece.length;
          burn.progress = read / total;
        });
        if (hash.digest("hex") !== sums.get(name))
          throw new Error(`"${name}" on the disc is not what was written. Put in a new disc and burn again.`);
      }
      burn.state = "done";
      this.#medium = { ...this.#medium!, state: "written" };
    } catch (error) {
      burn.state = signal.aborted ? "cancelled" : "failed";
      burn.error = signal.aborted ? null : (error as Error).message;
      await rm(disc, { recursive: true, force: true });
    }
  }
}

export function discRoutes(drive: Drive): Router {
  const router = Router();
  const json = express.json({ limit: "16kb" });
  router.get("/disc/drive", (_request, response) => {
    response.json(drive.state);
  });
  router.post("/disc/burns", json, async (request, response) => {
    const wish = z
      .object({ folder: z.string().min(1).max(4096), label: z.string().min(1).max(32) })
      .parse(request.body);
    response.status(202).json(await drive.begin(wish.folder, wish.label));
  });
  router.get("/disc/burns/:id", (request, response) => {
    response.json(drive.get(request.params.id));
  });
  router.delete("/disc/burns/:id", async (request, response) => {
    await drive.cancel(request.params.id);
    response.json(drive.get(request.params.id));
  });
  return router;
}

/** Reads a file piece by piece, and writes it where a place is given. */
async function pieces(from: string, to: string | null, heed: (piece: Buffer) => Promise<void> | void): Promise<void> {
  const source = await open(from, "r");
  const target = to === null ? null : await open(to, "w");
  try {
    const buffer = Buffer.alloc(PIECE_BYTES);
    for (;;) {
      const { bytesRead } = await source.read(buffer, 0, PIECE_BYTES);
      if (bytesRead === 0) return;
      const piece = buffer.subarray(0, bytesRead);
      await target?.write(piece);
      await heed(piece);
    }
  } finally {
    await source.close();
    await target?.close();
  }
}

/** Everything below a folder; links are not followed, so that nothing else gets onto a disc. */
async function filesIn(folder: string): Promise<DiscFile[]> {
  const facts = await lstat(folder).catch(() => null);
  if (!facts?.isDirectory()) throw new Refusal(422, "There is no such folder.");
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const files: DiscFile[] = [];
  for (const entry of entries) {
    if (!entry.isFile()) continue;
    const name = path.relative(folder, path.join(entry.parentPath, entry.name));
    files.push({ name, bytes: (await lstat(path.join(folder, name))).size });
  }
  return files.sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** Turns over the bits of the first byte. */
async function spoil(file: string): Promise<void> {
  const handle = await open(file, "r+");
  try {
    const byte = Buffer.alloc(1);
    await handle.read(byte, 0, 1, 0);
    await handle.write(Buffer.from([byte.readUInt8() ^ 0xff]), 0, 1, 0);
  } finally {
    await handle.close();
  }
}
