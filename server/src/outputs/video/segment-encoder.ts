import { once } from "node:events";
import type { FilmPlan } from "@humming-tide/core/film";
import { type RunningFfmpeg, startFfmpeg } from "../../media/ffmpeg.ts";
import { type FileForm, VIDEO_FORMATS } from "./formats/index.ts";
import { rawVideoInput } from "./raw-video.ts";

/**
 * Encodes the frames of one segment to a file, at most one frame behind whoever draws them. Throws
 * `ffmpeg-failed` with the encoder's words.
 */
export class SegmentEncoder {
  readonly #ffmpeg: RunningFfmpeg;
  #drained: Promise<unknown> = Promise.resolve();
  #failure: Error | null = null;

  private constructor(ffmpeg: RunningFfmpeg) {
    this.#ffmpeg = ffmpeg;
    ffmpeg.finished.catch((error: Error) => {
      this.#failure = error;
    });
  }

  static async start(plan: FilmPlan, form: FileForm, place: string): Promise<SegmentEncoder> {
    const { picture, pictureFile } = VIDEO_FORMATS[form.container];
    const encoding = [...picture(plan.rate, form.quality), ...pictureFile];
    return new SegmentEncoder(
      await startFfmpeg([...rawVideoInput(plan), "-i", "pipe:0", ...encoding, "-y", `file:${place}`]),
    );
  }

  /**
   * Waits until the frame before has gone; the bytes may be changed once that is so for this one,
   * too: after the next call but one.
   */
  async write(yuv: Uint8Array): Promise<void> {
    await this.#drained;
    if (this.#failure) throw this.#failure;
    const { child, finished } = this.#ffmpeg;
    if (child.stdin.write(yuv)) return;
    this.#drained = Promise.race([once(child.stdin, "drain"), finished]);
    this.#drained.catch(() => undefined);
  }

  /** Resolves when the file is whole. */
  async end(): Promise<void> {
    this.#ffmpeg.child.stdin.end();
    await this.#ffmpeg.finished;
  }

  /** Ends at once whatever is still going on. */
  kill(): void {
    this.#ffmpeg.child.kill("SIGKILL");
  }
}
