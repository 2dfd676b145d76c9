/**
 * A playing video may be this far beside the film before it is put right: a jump costs more than
 * that.
 */
const LARGEST_DRIFT_SECONDS = 0.1;
/** A file that cannot be played yet (it is still being made) is asked for again after this long. */
const RETRY_MS = 3000;

export interface Following {
  /** Of the video's own time. */
  readonly seconds: number;
  readonly isPlaying: boolean;
  /** Seconds of the video in a second of listening. */
  readonly speed: number;
  readonly framesPerSecond: number;
}

/**
 * A video without sound that follows a film: playing along with it, or standing on its frame. Calls
 * back when it has something new to show.
 */
export class FollowingVideo {
  readonly element = document.createElement("video");
  #wanted = 0;
  #failedAt = Number.NEGATIVE_INFINITY;

  constructor(url: string, onArrived: () => void) {
    const video = this.element;
    video.muted = true;
    video.playsInline = true;
    video.preload = "auto";
    video.addEventListener("seeked", onArrived);
    video.addEventListener("loadeddata", () => {
      video.currentTime = this.#wanted;
      onArrived();
    });
    video.addEventListener("error", () => {
      this.#failedAt = performance.now();
    });
    video.src = url;
  }

  /** There is a picture of it. */
  get isReady(): boolean {
    return this.element.readyState >= HTMLMediaElement.HAVE_CURRENT_DATA;
  }

  follow({ seconds, isPlaying, speed, framesPerSecond }: Following): void {
    const video = this.element;
    if (video.error) {
      if (performance.now() - this.#failedAt > RETRY_MS) {
        this.#failedAt = performance.now();
        video.load();
      }
      return;
    }
    // The middle of the film's frame: the file's frame boundaries need not be the film's.
    this.#wanted = seconds + 0.25 / framesPerSecond;
    if (video.readyState === 0) return;
    const drift = Math.abs(video.currentTime - this.#wanted);
    if (isPlaying) {
      video.playbackRate = Math.max(0.0625, Math.min(16, speed));
      if (drift > LARGEST_DRIFT_SECONDS && !video.seeking) video.currentTime = this.#wanted;
      if (video.paused && !video.ended) void video.play().catch(() => undefined);
    } else {
      if (!video.paused) video.pause();
      if (drift > 0.2 / framesPerSecond && !video.seeking) video.currentTime = this.#wanted;
    }
  }

  close(): void {
    this.element.pause();
    this.element.removeAttribute("src");
    this.element.load();
  }
}
