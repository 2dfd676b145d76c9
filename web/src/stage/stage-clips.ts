import {
  applyLook,
  type ClipInstant,
  type DrawableImage,
  type ImageName,
  parseDrawnPicture,
} from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import type { Look, Turn } from "@humming-tide/core/show";
import { mediaUrl } from "../api.ts";
import { type Following, FollowingVideo } from "./following-video.ts";

/** Longest side of a clip that has a look. */
const LOOK_PIXELS = 960;

/** A clip by its image, and what is shown of it. */
export interface ShownClip {
  readonly image: ImageName;
  readonly clip: ClipInstant;
}

/**
 * Clips on the stage, from their playable copies: playing along with the film, or standing on its
 * frame. Emits "arrived".
 */
export class StageClips extends EventTarget {
  readonly #videos = new Map<number, StageClip>();

  /**
   * Brings what a frame shows of clips under way, has those that come next ready where they begin,
   * and lets go of the others.
   */
  preload(shown: readonly ShownClip[], coming: readonly ShownClip[], playing: Omit<Following, "seconds">): void {
    const slots = new Set([...shown, ...coming].map(({ clip }) => clip.slotIndex));
    for (const [slotIndex, video] of this.#videos) {
      if (slots.has(slotIndex)) continue;
      video.close();
      this.#videos.delete(slotIndex);
    }
    for (const { image, clip } of shown) {
      const speed = playing.speed * clip.secondsPerFrame * playing.framesPerSecond;
      // Where the clip stands, its copy must not run on.
      const isPlaying = playing.isPlaying && speed > 0;
      this.#video(image.picture, clip).follow({ ...playing, seconds: clip.seconds, speed, isPlaying });
    }
    for (const { image, clip } of coming) {
      this.#video(image.picture, clip).follow({ ...playing, seconds: clip.seconds, isPlaying: false });
    }
  }

  #video(picture: string, { slotIndex }: ClipInstant): StageClip {
    const there = this.#videos.get(slotIndex);
    if (there?.picture === picture) return there;
    there?.close();
    const video = new StageClip(picture, () => this.dispatchEvent(new Event("arrived")));
    this.#videos.set(slotIndex, video);
    return video;
  }

  /** The picture of an instant; null while there is none, and the clip's poster stands in. */
  readonly get = (clip: ClipInstant, look: Look | null): DrawableImage<CanvasImageSource> | null =>
    this.#videos.get(clip.slotIndex)?.image(look) ?? null;

  close(): void {
    for (const video of this.#videos.values()) video.close();
    this.#videos.clear();
  }
}

class StageClip {
  readonly picture: string;
  readonly #turn: Turn;
  readonly #video: FollowingVideo;
  #turned: OffscreenCanvas | null = null;
  #toned: OffscreenCanvas | null = null;

  constructor(picture: string, onArrived: () => void) {
    this.picture = picture;
    const { sha256, turn } = present(parseDrawnPicture(picture));
    this.#turn = turn;
    this.#video = new FollowingVideo(mediaUrl(sha256, "proxy"), onArrived);
  }

  follow(following: Following): void {
    this.#video.follow(following);
  }

  image(look: Look | null): DrawableImage<CanvasImageSource> | null {
    const plain = this.#plainImage();
    return plain && look ? this.#withLook(plain, look) : plain;
  }

  /**
   * Small enough for the page's thread: a clip with a look is seen a little softer here than in the
   * film.
   */
  #withLook(plain: DrawableImage<CanvasImageSource>, look: Look): DrawableImage<CanvasImageSource> {
    const scale = Math.min(1, LOOK_PIXELS / Math.max(plain.width, plain.height));
    const [width, height] = [Math.round(plain.width * scale), Math.round(plain.height * scale)];
    this.#toned ??= new OffscreenCanvas(width, height);
    const context = present(this.#toned.getContext("2d", { willReadFrequently: true }));
    context.drawImage(plain.image, 0, 0, width, height);
    const pixels = context.getImageData(0, 0, width, height);
    applyLook(pixels.data, { ...look, levels: 0 });
    context.putImageData(pixels, 0, 0);
    return { image: this.#toned, width, height };
  }

  #plainImage(): DrawableImage<CanvasImageSource> | null {
    if (!this.#video.isReady) return null;
    const video = this.#video.element;
    const { videoWidth: width, videoHeight: height } = video;
    if (this.#turn === 0) return { image: video, width, height };
    const isAcross = this.#turn % 180 !== 0;
    this.#turned ??= new OffscreenCanvas(isAcross ? height : width, isAcross ? width : height);
    const context = present(this.#turned.getContext("2d"));
    context.setTransform(1, 0, 0, 1, this.#turned.width / 2, this.#turned.height / 2);
    context.rotate((this.#turn * Math.PI) / 180);
    context.drawImage(video, -width / 2, -height / 2);
    return { image: this.#turned, width: this.#turned.width, height: this.#turned.height };
  }

  close(): void {
    this.#video.close();
  }
}
