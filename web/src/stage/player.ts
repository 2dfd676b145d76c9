import type { FilmPlan } from "@humming-tide/core/film";
import type { SoundPlan } from "@humming-tide/core/sound";
import { frameAt, frameStart, frames, seconds } from "@humming-tide/core/time";
import { mediaUrl } from "../api.ts";

export type PlayerState = "empty" | "loading" | "ready" | "playing" | "failed";

/**
 * Plays the film's sound and is its clock: whatever moves on the page asks `filmSeconds()`, which while playing is the audio device's own
 * time, less its output delay. So the picture follows the music and never the other way round.
 */
export class Player extends EventTarget {
  #context: AudioContext | null = null;
  #buffer: AudioBuffer | null = null;
  #source: AudioBufferSourceNode | null = null;
  #songSha256: string | null = null;
  #plan: FilmPlan | null = null;
  #state: PlayerState = "empty";
  /** While playing: the context's time at which film second 0 was or would have been. While not: unused. */
  #zero = 0;
  #position = 0;

  get state(): PlayerState {
    return this.#state;
  }

  get lengthSeconds(): number {
    return this.#plan ? frameStart(frames(this.#plan.totalFrames), this.#plan.rate) : 0;
  }

  /** Where the film is, as heard now. */
  filmSeconds(): number {
    if (this.#state !== "playing" || !this.#context) return this.#position;
    const heard = this.#context.currentTime - this.#zero - (this.#context.outputLatency || 0);
    return Math.max(0, Math.min(this.lengthSeconds, heard));
  }

  /** Takes a new plan. The same song plays on; a new one is fetched and stops the old. */
  setPlan(plan: FilmPlan | null): void {
    const fades = JSON.stringify(plan?.sound.fadeOut) !== JSON.stringify(this.#plan?.sound.fadeOut);
    this.#plan = plan;
    const sha256 = plan?.sound.songSha256 ?? null;
    if (sha256 !== this.#songSha256) {
      this.pause();
      this.#position = 0;
      this.#songSha256 = sha256;
      this.#buffer = null;
      if (sha256) void this.#load(sha256);
      else this.#become("empty");
    } else if (fades && this.#state === "playing") {
      this.seek(this.filmSeconds());
    }
    this.#position = Math.min(this.#position, this.lengthSeconds);
    this.dispatchEvent(new Event("move"));
  }

  async #load(sha256: string): Promise<void> {
    this.#become("loading");
    try {
      const response = await fetch(mediaUrl(sha256, "sound"));
      if (!response.ok) throw new Error(`status ${response.status}`);
      this.#context ??= new AudioContext({ sampleRate: 48_000, latencyHint: "interactive" });
      const buffer = await this.#context.decodeAudioData(await response.arrayBuffer());
      if (this.#songSha256 !== sha256) return;
      this.#buffer = buffer;
      this.#become("ready");
    } catch {
      if (this.#songSha256 === sha256) this.#become("failed");
    }
  }

  async play(): Promise<void> {
    if (!this.#buffer || !this.#context || !this.#plan || this.#state === "playing") return;
    await this.#context.resume();
    // A film that has ended starts again from the beginning.
    if (this.#position >= this.lengthSeconds - 0.01) this.#position = 0;
    this.#start();
    this.#become("playing");
  }

  pause(): void {
    if (this.#state !== "playing") return;
    this.#position = this.filmSeconds();
    this.#stop();
    this.#become("ready");
  }

  toggle(): void {
    if (this.#state === "playing") this.pause();
    else void this.play();
  }

  seek(filmSeconds: number): void {
    this.#position = Math.max(0, Math.min(this.lengthSeconds, filmSeconds));
    if (this.#state === "playing") {
      this.#stop();
      this.#start();
    }
    this.dispatchEvent(new Event("move"));
  }

  /** Steps by whole frames and stands still there. */
  stepFrames(count: number): void {
    if (!this.#plan) return;
    this.pause();
    const frame = frameAt(seconds(this.#position), this.#plan.rate) + count;
    const last = this.#plan.totalFrames - 1;
    this.seek(frameStart(frames(Math.max(0, Math.min(last, frame))), this.#plan.rate));
  }

  /** Gives the audio device back. A plan that is set afterwards begins anew. */
  close(): void {
    this.pause();
    this.#songSha256 = null;
    this.#buffer = null;
    void this.#context?.close();
    this.#context = null;
  }

  #start(): void {
    const [context, buffer, plan] = [this.#context!, this.#buffer!, this.#plan!];
    const { sound } = plan;
    const source = context.createBufferSource();
    source.buffer = buffer;
    const gain = context.createGain();
    source.connect(gain).connect(context.destination);
    const now = context.currentTime + 0.02;
    this.#zero = now - this.#position;
    scheduleGain(gain.gain, sound, this.#zero, now);
    const songSeconds = this.#position - sound.filmStartSeconds + sound.songStartSeconds;
    source.start(now, Math.max(0, songSeconds), Math.max(0.01, this.lengthSeconds - this.#position));
    source.onended = () => {
      if (this.#source !== source) return;
      this.#position = this.lengthSeconds;
      this.#source = null;
      this.#become("ready");
    };
    this.#source = source;
  }

  #stop(): void {
    const source = this.#source;
    this.#source = null;
    source?.stop();
  }

  #become(state: PlayerState): void {
    this.#state = state;
    this.dispatchEvent(new Event("state"));
    this.dispatchEvent(new Event("move"));
  }
}

/** The plan's gain curve on the audio clock: the same straight lines that the export's mixer draws. */
function scheduleGain(gain: AudioParam, { gain: curve }: SoundPlan, zero: number, now: number): void {
  const before = curve.findLast((point) => zero + point.seconds <= now) ?? curve[0];
  gain.setValueAtTime(before?.gain ?? 1, now);
  for (const point of curve) {
    const at = zero + point.seconds;
    if (at <= now) continue;
    if (point === curve[0]) gain.setValueAtTime(point.gain, at);
    else gain.linearRampToValueAtTime(point.gain, at);
  }
}
