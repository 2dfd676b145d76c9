import { createHash } from "node:crypto";
import { access, mkdir, open, readFile, rename, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import { deflateSync, inflateSync } from "node:zlib";
import type { FilmPlan } from "@humming-tide/core/film";
import { SMALL_FRAME } from "@humming-tide/core/measure";
import type { FilmSegment } from "./film-segments.ts";
import { extensionOf, type FileForm, VIDEO_FORMATS, type VideoFormat } from "./formats/index.ts";
import { readFilmFacts } from "./read-film.ts";

/** Small pictures of some of a film's frames (core/measure), by frame. */
export type SmallFrames = ReadonlyMap<number, Uint8Array>;

/**
 * The finished parts of a film that is being made: its segments, the small frames that measuring
 * wants, and its sound. A part gets its name when it is whole and on the disk, so that what has a
 * name after a crash can be used. Parts of another plan or of other settings go.
 */
export class FilmParts {
  readonly folder: string;
  readonly #form: FileForm;

  private constructor(folder: string, form: FileForm) {
    this.folder = folder;
    this.#form = form;
  }

  static async open(folder: string, plan: FilmPlan, form: FileForm): Promise<FilmParts> {
    const format = VIDEO_FORMATS[form.container];
    const settings = [PARTS_VERSION, form, format.picture(plan.rate, form.quality), format.sound(form.quality)];
    const name = createHash("sha256")
      .update(JSON.stringify([settings, plan]))
      .digest("hex");
    const namePath = path.join(folder, "plan");
    if ((await readFile(namePath, "utf8").catch(() => null)) !== name) {
      await rm(folder, { recursive: true, force: true });
      await mkdir(folder, { recursive: true });
      await writeFile(namePath, name);
    }
    return new FilmParts(folder, form);
  }

  get #format(): VideoFormat {
    return VIDEO_FORMATS[this.#form.container];
  }

  segmentPath({ index }: FilmSegment): string {
    return path.join(this.folder, `${String(index).padStart(5, "0")}.${extensionOf(this.#form.container)}`);
  }

  get soundPath(): string {
    return path.join(this.folder, `sound.${this.#format.soundExtension}`);
  }

  /** A name to write to before a part is whole. */
  unfinished(place: string): string {
    return path.join(this.folder, `unfinished-${path.basename(place)}`);
  }

  /** Gives a part that was written under its unfinished name its own. */
  async finish(place: string): Promise<void> {
    const unfinished = this.unfinished(place);
    const file = await open(unfinished, "r+");
    try {
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(unfinished, place);
  }

  /** Whether a segment is there with all of its frames. One that is damaged is not. */
  async hasSegment(segment: FilmSegment): Promise<boolean> {
    const smallFrames = await this.smallFramesOf(segment).catch(() => null);
    if (!smallFrames) return false;
    const facts = await readFilmFacts(this.segmentPath(segment)).catch(() => null);
    return facts?.frameSeconds.length === segment.endFrame - segment.fromFrame;
  }

  async hasSound(): Promise<boolean> {
    return access(this.soundPath).then(
      () => true,
      () => false,
    );
  }

  /** Before the segment itself is finished: a segment that has its name has its small frames. */
  async keepSmallFrames(segment: FilmSegment, smallFrames: SmallFrames): Promise<void> {
    const bytes = Buffer.alloc(smallFrames.size * ENTRY_BYTES);
    let at = 0;
    for (const [frame, pixels] of smallFrames) {
      bytes.writeUInt32LE(frame, at);
      bytes.set(pixels, at + 4);
      at += ENTRY_BYTES;
    }
    const place = this.#smallFramesPath(segment);
    await writeFile(this.unfinished(place), deflateSync(bytes, { level: 1 }));
    await this.finish(place);
  }

  async smallFramesOf(segment: FilmSegment): Promise<SmallFrames> {
    const bytes = inflateSync(await readFile(this.#smallFramesPath(segment)));
    const smallFrames = new Map<number, Uint8Array>();
    for (let at = 0; at < bytes.length; at += ENTRY_BYTES)
      smallFrames.set(bytes.readUInt32LE(at), bytes.subarray(at + 4, at + ENTRY_BYTES));
    return smallFrames;
  }

  async remove(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
  }

  #smallFramesPath(segment: FilmSegment): string {
    return `${this.segmentPath(segment)}.looks`;
  }
}

/** Raised whenever the same plan is drawn in another way: a film is not joined of both. */
const PARTS_VERSION = 1;
const ENTRY_BYTES = 4 + SMALL_FRAME.bytes;
