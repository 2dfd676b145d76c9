import { itemAt } from "@humming-tide/core/presence";
import { type FrameRate, frameAt, frameStart, framesPerSecond } from "@humming-tide/core/time";
import { type HandStep, stepAt } from "@humming-tide/core/web-player";

/**
 * The sound's own clock is followed; what it says moves in small jumps in some browsers, which the
 * page's clock smooths.
 */
const LARGEST_DRIFT_SECONDS = 0.06;

/** "music": the film plays by itself with its sound; "hand": a slide at a time, without sound. */
export type PlayingMode = "music" | "hand";

export interface ClockedFilm {
  readonly rate: FrameRate;
  readonly totalFrames: number;
  readonly loops: boolean;
  readonly steps: readonly HandStep[];
}

/**
 * Where a film is that plays with the sound of an audio element, or is stepped by hand. Emits
 * "change" when what it does has changed.
 */
export class FilmClock extends EventTarget {
  readonly #film: ClockedFilm;
  readonly #sound: HTMLAudioElement;
  #mode: PlayingMode = "music";
  #isPlaying = false;
  #seconds = 0;
  /** Where and when the page's clock was last put right by the sound's. */
  #anchor = { seconds: 0, milliseconds: 0 };
  /** Up to where a hand's step plays. */
  #restFrame = 0;
  #soundFailed = false;

  constructor(film: ClockedFilm, sound: HTMLAudioElement) {
    super();
    this.#film = film;
    this.#sound = sound;
    sound.addEventListener("ended", () => this.#end());
    sound.addEventListener("error", () => {
      this.#soundFailed = true;
      this.#tell();
    });
  }

  get mode(): PlayingMode {
    return this.#mode;
  }

  get isPlaying(): boolean {
    return this.#isPlaying;
  }

  /** The film goes on without its sound. */
  get soundFailed(): boolean {
    return this.#soundFailed;
  }

  get lengthSeconds(): number {
    return frameStart(this.#film.totalFrames, this.#film.rate);
  }

  /** The step that is seen, from 0. */
  get step(): number {
    return stepAt(this.#film.steps, this.frame());
  }

  /** The frame that is to be seen now; asked for on every picture of the screen. */
  frame(): number {
    if (this.#isPlaying) this.#follow();
    return Math.max(0, Math.min(this.#film.totalFrames - 1, frameAt(this.#seconds, this.#film.rate)));
  }

  #follow(): void {
    const now = performance.now();
    const passed = this.#anchor.seconds + (now - this.#anchor.milliseconds) / 1000;
    if (this.#mode === "hand") {
      const rest = frameStart(this.#restFrame, this.#film.rate);
      this.#seconds = Math.min(rest, passed);
      if (passed >= rest) this.#stop();
      return;
    }
    if (this.#soundFailed) {
      this.#seconds = passed;
      if (passed >= this.lengthSeconds) this.#end();
      return;
    }
    const heard = this.#sound.currentTime;
    const drift = heard - passed;
    // What the sound says is right in the long run, and the page's clock from one picture to the
    // next.
    this.#seconds = Math.abs(drift) > LARGEST_DRIFT_SECONDS ? heard : passed + 0.1 * drift;
    this.#anchor = { seconds: this.#seconds, milliseconds: now };
  }

  play(): void {
    if (this.#mode === "hand") {
      this.stepBy(1);
      return;
    }
    if (this.#seconds >= this.lengthSeconds - 1 / framesPerSecond(this.#film.rate)) this.#seconds = 0;
    this.#isPlaying = true;
    this.#setAnchor();
    if (!this.#soundFailed) {
      this.#sound.currentTime = this.#seconds;
      this.#sound.play().catch((error: unknown) => {
        // Stopped again before it began.
        if ((error as { name?: string }).name === "AbortError") return;
        this.#soundFailed = true;
        this.#setAnchor();
        this.#tell();
      });
    }
    this.#tell();
  }

  pause(): void {
    if (this.#isPlaying) this.frame();
    this.#stop();
  }

  toggle(): void {
    if (this.#isPlaying && this.#mode === "music") this.pause();
    else this.play();
  }

  setMode(mode: PlayingMode): void {
    if (mode === this.#mode) return;
    this.pause();
    this.#mode = mode;
    if (mode === "hand") this.#restFrame = itemAt(this.#film.steps, this.step).restFrame;
    this.#tell();
  }

  seek(frame: number): void {
    const wasPlaying = this.#isPlaying && this.#mode === "music";
    if (this.#isPlaying) this.#stop();
    this.#seconds = frameStart(Math.max(0, Math.min(this.#film.totalFrames - 1, frame)), this.#film.rate);
    if (wasPlaying) this.play();
    this.#tell();
  }

  /**
   * By hand: plays on to where the next slide rests, or shows where an earlier one does. Else: to
   * the beginning of a slide.
   */
  stepBy(count: number): void {
    const { steps } = this.#film;
    const at = this.step;
    const next = itemAt(steps, Math.max(0, Math.min(steps.length - 1, at + count)));
    if (this.#mode === "music") {
      // Back in the middle of a slide goes to its own beginning, as everywhere.
      const isInside = this.frame() > itemAt(steps, at).startFrame + framesPerSecond(this.#film.rate);
      this.seek(count < 0 && isInside ? itemAt(steps, at).startFrame : next.startFrame);
      return;
    }
    this.#stop();
    if (count < 0 || next === steps[at]) {
      this.seek(next.restFrame);
      return;
    }
    this.#seconds = frameStart(next.startFrame, this.#film.rate);
    this.#restFrame = next.restFrame;
    this.#isPlaying = true;
    this.#setAnchor();
    this.#tell();
  }

  #end(): void {
    if (this.#film.loops) {
      this.#seconds = 0;
      this.play();
      return;
    }
    this.#seconds = this.lengthSeconds;
    this.#stop();
  }

  #stop(): void {
    this.#sound.pause();
    if (!this.#isPlaying) return;
    this.#isPlaying = false;
    this.#tell();
  }

  #setAnchor(): void {
    this.#anchor = { seconds: this.#seconds, milliseconds: performance.now() };
  }

  #tell(): void {
    this.dispatchEvent(new Event("change"));
  }
}
