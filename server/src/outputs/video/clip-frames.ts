import {
  applyLook,
  type ClipInstant,
  clipFrameAt,
  clipsIn,
  type DrawableImage,
  type FramePlan,
  parseDrawnPicture,
} from "@humming-tide/core/picture";
import { itemAt, present } from "@humming-tide/core/presence";
import type { Look, Turn } from "@humming-tide/core/show";
import { type Canvas, createCanvas, ImageData } from "@napi-rs/canvas";
import { pictureFilters } from "../../media/clip-picture.ts";
import { type ClipTimes, clipTimes } from "../../media/clip-times.ts";
import { inputFile, type RunningFfmpeg, startFfmpeg } from "../../media/ffmpeg.ts";
import type { RgbaPixels } from "../../planes/index.ts";
import type { DrawnImage } from "./picture-cache.ts";

/**
 * Frames of clips for drawing, decoded exactly: one decoder a slot reads its clip from front to
 * back, and ends when the slot has been seen.
 */
export class ClipFrames {
  readonly #originalPath: (sha256: string) => string;
  readonly #times = new Map<string, Promise<ClipTimes>>();
  readonly #decoders = new Map<number, ClipDecoder>();

  constructor(originalPath: (sha256: string) => string) {
    this.#originalPath = originalPath;
  }

  /**
   * Decodes what a frame shows of clips, and ends the decoders that it has no use for. Throws
   * `ffmpeg-failed`.
   */
  async preload(plan: FramePlan): Promise<void> {
    const shown = clipsIn(plan);
    const slots = new Set(shown.map(({ clip }) => clip.slotIndex));
    for (const [slotIndex, decoder] of this.#decoders) {
      if (slots.has(slotIndex)) continue;
      decoder.close();
      this.#decoders.delete(slotIndex);
    }
    for (const { image, clip } of shown) {
      const { picture, look } = image;
      const { slotIndex, seconds, size } = clip;
      let decoder = this.#decoders.get(slotIndex);
      if (!decoder) {
        const { sha256, turn } = present(parseDrawnPicture(picture));
        const original = this.#originalPath(sha256);
        const times = this.#times.get(sha256) ?? clipTimes(original);
        this.#times.set(sha256, times);
        decoder = new ClipDecoder(original, await times, turn, size);
        this.#decoders.set(slotIndex, decoder);
      }
      await decoder.show(seconds, look);
    }
  }

  /** What the last `need` has decoded for a slot. */
  readonly get = (clip: ClipInstant): DrawableImage<DrawnImage> | null =>
    this.#decoders.get(clip.slotIndex)?.image ?? null;

  /** The same as pixels, the very same ones until another frame is shown. */
  readonly pixels = (clip: ClipInstant): RgbaPixels | null => this.#decoders.get(clip.slotIndex)?.pixels ?? null;

  close(): void {
    for (const decoder of this.#decoders.values()) decoder.close();
    this.#decoders.clear();
  }
}

const TURNS: Readonly<Record<Turn, readonly string[]>> = {
  0: [],
  90: ["transpose=1"],
  180: ["hflip", "vflip"],
  270: ["transpose=2"],
};

class ClipDecoder {
  readonly #original: string;
  readonly #times: ClipTimes;
  readonly #turn: Turn;
  readonly #size: ClipInstant["size"];
  #pixels: RgbaPixels | null = null;
  #canvas: { readonly canvas: Canvas; shows: RgbaPixels | null } | null = null;
  #running: RunningFfmpeg | null = null;
  #chunks: AsyncIterator<Buffer, undefined> | null = null;
  #rest: Buffer = Buffer.alloc(0);
  /** Index of the frame that was decoded last; -1 before the first. */
  #shown = -1;
  #ended = false;

  constructor(original: string, times: ClipTimes, turn: Turn, size: ClipInstant["size"]) {
    this.#original = original;
    this.#times = times;
    this.#turn = turn;
    this.#size = size;
  }

  get pixels(): RgbaPixels | null {
    return this.#pixels;
  }

  get image(): DrawableImage<DrawnImage> | null {
    if (!this.#pixels) return null;
    const { width, height } = this.#size;
    this.#canvas ??= { canvas: createCanvas(width, height), shows: null };
    if (this.#canvas.shows !== this.#pixels) {
      const pixels = this.#pixels.rgba as Uint8ClampedArray<ArrayBuffer>;
      this.#canvas.canvas.getContext("2d").putImageData(new ImageData(pixels, width, height), 0, 0);
      this.#canvas.shows = this.#pixels;
    }
    return { image: this.#canvas.canvas, width, height };
  }

  /**
   * Decodes the frame of an instant. A clip that ends before its container says so keeps its last
   * one.
   */
  async show(seconds: number, look: Look | null): Promise<void> {
    const wanted = clipFrameAt(this.#times.starts, seconds);
    if (wanted === this.#shown) return;
    if (!this.#running || wanted < this.#shown) await this.#open(wanted);
    let frame: Buffer | null = null;
    while (this.#shown < wanted && !this.#ended) {
      const next = await this.#read();
      if (next) {
        frame = next;
        this.#shown++;
      }
    }
    if (!frame) return;
    const pixels = new Uint8ClampedArray(frame.buffer, frame.byteOffset, frame.length);
    // Levels would flicker: what is darkest and lightest differs from frame to frame.
    if (look) applyLook(pixels, { ...look, levels: 0 });
    this.#pixels = { ...this.#size, rgba: pixels, opaque: true };
  }

  /**
   * Begins to decode at a frame. A seek halfway between it and the one before is exact whatever the
   * file's clock rounds.
   */
  async #open(index: number): Promise<void> {
    this.close();
    const { starts, firstSeconds, picture } = this.#times;
    const { width, height } = this.#size;
    const seek = index > 0 ? firstSeconds + (itemAt(starts, index - 1) + itemAt(starts, index)) / 2 : null;
    const [turned, upright] = this.#turn % 180 === 0 ? [width, height] : [height, width];
    const { filters, ...started } = await pictureFilters(picture, `${turned}:${upright}`, "rgb");
    this.#running = await startFfmpeg(
      [
        ...(seek === null ? [] : ["-ss", seek.toFixed(6)]),
        ...inputFile(this.#original),
        ...["-map", "0:V:0", "-an", "-vsync", "0"],
        ...["-vf", [...filters, ...TURNS[this.#turn]].join(",")],
        ...["-f", "rawvideo", "-pix_fmt", "rgba", "pipe:1"],
      ],
      started,
    );
    this.#chunks = this.#running.child.stdout[Symbol.asyncIterator]() as AsyncIterator<Buffer, undefined>;
    this.#rest = Buffer.alloc(0);
    this.#shown = index - 1;
    this.#ended = false;
  }

  /** The next frame's bytes; null at the end. */
  async #read(): Promise<Buffer | null> {
    const bytes = 4 * this.#size.width * this.#size.height;
    const parts: Buffer[] = [this.#rest];
    let length = this.#rest.length;
    while (length < bytes) {
      const { value, done }: IteratorResult<Buffer, undefined> = await present(this.#chunks).next();
      if (done) {
        this.#ended = true;
        await present(this.#running).finished;
        return null;
      }
      parts.push(value);
      length += value.length;
    }
    const all = parts.length === 1 ? itemAt(parts, 0) : Buffer.concat(parts);
    this.#rest = all.subarray(bytes);
    return all.subarray(0, bytes);
  }

  close(): void {
    this.#running?.child.kill("SIGKILL");
    this.#running = null;
    this.#chunks = null;
  }
}
