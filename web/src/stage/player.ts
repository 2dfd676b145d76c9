import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt } from "@humming-tide/core/presence";
import type { Master, SoundPlan } from "@humming-tide/core/sound";
import { type FrameRate, frameAt, frameStart } from "@humming-tide/core/time";
import { MixSounds } from "./mix-sounds.ts";
import { CHUNK_SECONDS, type Click, type StreamWish } from "./mix-stream.ts";
import type { MixAnswer, MixRequest } from "./mix-worker.ts";

export type PlayerState = "empty" | "loading" | "ready" | "playing" | "failed";

/** Something that can be played: a film, or a song by itself. */
export interface Track {
  /** Two tracks of the same key go on from the same place. */
  readonly key: string;
  readonly sound: SoundPlan;
  readonly rate: FrameRate;
  readonly totalFrames: number;
  /** Where stepping by beats stops. */
  readonly beats: readonly { readonly seconds: number }[];
}

/** How it is played; each screen sets what it needs and gives it back when it is left. */
export interface PlayingWish {
  readonly speed: number;
  readonly loop: StreamWish["loop"];
  readonly clicks: readonly Click[];
  readonly clickGain: number;
}

/** What is heard now, for meters: highest samples. */
export interface HeardPeaks {
  readonly whole: number;
  readonly owners: Readonly<Record<string, number>>;
}

const SILENT: HeardPeaks = { whole: 0, owners: {} };

const PLAIN: PlayingWish = { speed: 1, loop: null, clicks: [], clickGain: 0 };

/** A chunk that was handed to the audio device. */
interface Scheduled {
  readonly source: AudioBufferSourceNode;
  readonly startTime: number;
  readonly endTime: number;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly peaks: HeardPeaks;
}

/**
 * Sound that lies ready on the audio device: enough for a page in the background, whose timers come
 * once a second.
 */
const AHEAD_SECONDS = 1.6;
const TICK_MILLISECONDS = 100;
/** A mix is measured when nothing has changed it for so long. */
const MEASURE_AFTER_MILLISECONDS = 500;
/** A level that differs by less is the same. */
const SAME_DECIBELS = 0.01;
/** Of the songs' decodes (media/song-intake.ts on the server). */
const SAMPLE_RATE = 48_000;
/** From asking for sound to hearing it. */
const START_DELAY_SECONDS = 0.05;

/**
 * Plays the film's sound, or a song's, and is its clock: whatever moves on the page asks
 * `filmSeconds()`, which while playing is the audio device's own time, less its output delay. So
 * the picture follows the music and never the other way round. The sound itself is mixed in a
 * worker by the code that mixes the export.
 */
export class Player extends EventTarget {
  /** Started with the first track that is to be played. */
  #mixing: { readonly worker: Worker; readonly sounds: MixSounds } | null = null;
  #context: AudioContext | null = null;
  #film: Track | null = null;
  #solo: Track | null = null;
  #wish: PlayingWish = PLAIN;
  #state: PlayerState = "empty";
  #position = 0;
  /** Where the film stood when a song was played instead. */
  #filmPosition = 0;
  /** Counts loads; an older one that ends late is not listened to. */
  #load = 0;
  #stream = 0;
  #scheduled: Scheduled[] = [];
  #asked = 0;
  #nextTime = 0;
  #ended = false;
  #timer: ReturnType<typeof setInterval> | null = null;
  #soloed: readonly string[] = [];
  /** Of the newest film that was measured. */
  #master: Master | null = null;
  /** 0 to 1 while a film is measured; null where none is. */
  #measuring: number | null = null;
  #question = 0;
  /** The sound that was measured or is being measured. */
  #measured = "";
  #measureTimer: ReturnType<typeof setTimeout> | null = null;

  get state(): PlayerState {
    return this.#state;
  }

  get track(): Track | null {
    return this.#solo ?? this.#film;
  }

  get lengthSeconds(): number {
    const { track } = this;
    return track ? frameStart(track.totalFrames, track.rate) : 0;
  }

  /** Delay between the audio clock and the ear, as the device tells it. */
  get outputDelaySeconds(): number {
    return this.#context?.outputLatency || 0;
  }

  /** Where the track is, as heard now. */
  filmSeconds(): number {
    if (this.#state !== "playing" || !this.#context) return this.#position;
    const heard = this.#context.currentTime - this.outputDelaySeconds;
    const chunk = this.#scheduled.find(({ endTime }) => endTime > heard);
    if (!chunk) return this.#scheduled.at(-1)?.toSeconds ?? this.#position;
    const share = Math.max(0, (heard - chunk.startTime) / (chunk.endTime - chunk.startTime));
    return chunk.fromSeconds + share * (chunk.toSeconds - chunk.fromSeconds);
  }

  /** Where the film stands, also while a song is played instead. */
  get filmPosition(): number {
    return this.#solo ? this.#filmPosition : this.filmSeconds();
  }

  get wish(): PlayingWish {
    return this.#wish;
  }

  /** What was heard at a moment of the page's clock, for example when a key was pressed. */
  heardAt(timeStamp: number): number {
    const ago = Math.max(0, performance.now() - timeStamp) / 1000;
    return this.filmSeconds() - ago * this.#wish.speed;
  }

  /** How loud the film is, before and behind its master. */
  get master(): Master | null {
    return this.#master;
  }

  get measuring(): number | null {
    return this.#measuring;
  }

  /** The highest samples of what is heard now, over a fifth of a second. */
  heardPeaks(): HeardPeaks {
    if (this.#state !== "playing" || !this.#context) return SILENT;
    const heard = this.#context.currentTime - this.outputDelaySeconds;
    return this.#scheduled.find(({ endTime }) => endTime > heard)?.peaks ?? SILENT;
  }

  /** Owners of the film's sound that are heard alone (core/sound, ownerKey); none: all. */
  setSoloed(soloed: readonly string[]): void {
    if (soloed.join() === this.#soloed.join()) return;
    this.#soloed = soloed;
    if (this.#state === "playing") this.#restart(this.filmSeconds());
  }

  /** Takes a new film. */
  setPlan(plan: FilmPlan | null): void {
    this.#change(() => {
      this.#film = plan && {
        key: "film",
        sound: plan.sound,
        rate: plan.rate,
        totalFrames: plan.totalFrames,
        beats: plan.music.grid.beats,
      };
    });
  }

  /** Plays this instead of the film until it is given back with null. */
  setSolo(track: Track | null): void {
    this.#change(() => {
      this.#solo = track;
    });
  }

  /**
   * Tempo, loop and click track; what is not named is plain. While it plays it goes on from where
   * it is.
   */
  setWish(wish: Partial<PlayingWish>): void {
    const next = { ...PLAIN, ...wish };
    if (JSON.stringify(next) === JSON.stringify(this.#wish)) return;
    this.#wish = next;
    if (this.#state === "playing") this.#restart(this.filmSeconds());
  }

  #change(set: () => void): void {
    const before = this.track;
    const wasAt = this.filmSeconds();
    if (before && before === this.#film) this.#filmPosition = wasAt;
    set();
    const after = this.track;
    const sounds = (track: Track | null): string => [...new Set(track?.sound.pieces.map((p) => p.soundName))].join();
    if (before?.key !== after?.key || sounds(before) !== sounds(after)) {
      this.pause();
      if (before?.key !== after?.key) this.#position = after === this.#film ? this.#filmPosition : 0;
      if (after) void this.#bring(after);
      else this.#become("empty");
    } else if (this.#state === "playing" && !isSameSound(before, after)) {
      this.#restart(wasAt);
    }
    this.#position = Math.min(this.#position, this.lengthSeconds);
    this.#measureSoon();
    this.dispatchEvent(new Event("move"));
  }

  async #bring(track: Track): Promise<void> {
    const load = ++this.#load;
    this.#become("loading");
    try {
      this.#mixing ??= this.#startMixing();
      this.#context ??= new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: "interactive" });
      for (const name of new Set(track.sound.pieces.map((piece) => piece.soundName))) {
        await this.#mixing.sounds.bring(name, this.#context);
      }
      if (load === this.#load) this.#become("ready");
      this.#measureSoon();
    } catch {
      if (load === this.#load) this.#become("failed");
    }
  }

  async play(): Promise<void> {
    if (!this.#context || !this.track || this.#state !== "ready") return;
    await this.#context.resume();
    // What has ended starts again from the beginning.
    if (this.#position >= this.lengthSeconds - 0.01) this.#position = 0;
    this.#become("playing");
    this.#restart(this.#position);
  }

  pause(): void {
    if (this.#state !== "playing") return;
    this.#position = Math.max(0, Math.min(this.lengthSeconds, this.filmSeconds()));
    this.#silence();
    this.#become("ready");
  }

  toggle(): void {
    if (this.#state === "playing") this.pause();
    else void this.play();
  }

  seek(filmSeconds: number): void {
    this.#position = Math.max(0, Math.min(this.lengthSeconds, filmSeconds));
    if (this.#state === "playing") this.#restart(this.#position);
    this.dispatchEvent(new Event("move"));
  }

  /** Steps by whole frames and stands still there. */
  stepFrames(count: number): void {
    const { track } = this;
    if (!track) return;
    this.pause();
    const frame = frameAt(this.#position, track.rate) + count;
    this.seek(frameStart(Math.max(0, Math.min(track.totalFrames - 1, frame)), track.rate));
  }

  /** Gives the audio device and the worker back. A plan that is set afterwards begins again. */
  close(): void {
    this.pause();
    this.#film = null;
    this.#solo = null;
    this.#filmPosition = 0;
    this.#mixing?.worker.terminate();
    this.#mixing = null;
    void this.#context?.close();
    this.#context = null;
    this.#state = "empty";
    this.#question++;
    this.#measured = "";
    this.#master = null;
    this.#measuring = null;
    if (this.#measureTimer !== null) clearTimeout(this.#measureTimer);
  }

  /** Measures the film's mix once its sounds are there and its sound has come to rest. */
  #measureSoon(): void {
    if (this.#measureTimer !== null) clearTimeout(this.#measureTimer);
    this.#measureTimer = setTimeout(() => {
      const sound = this.#film?.sound;
      if (!sound?.master || this.#solo || (this.#state !== "ready" && this.#state !== "playing")) return;
      const text = JSON.stringify(sound);
      if (text === this.#measured) return;
      this.#measured = text;
      this.#tellMeasuring(0);
      this.#send({ kind: "measure", question: ++this.#question, sound, sampleRate: SAMPLE_RATE });
    }, MEASURE_AFTER_MILLISECONDS);
  }

  #tellMeasuring(progress: number | null): void {
    this.#measuring = progress;
    this.dispatchEvent(new Event("master"));
  }

  #heed(answer: MixAnswer): void {
    if (answer.kind === "chunk") this.#take(answer);
    else if (answer.question !== this.#question) return;
    else if (answer.kind === "measuring") this.#tellMeasuring(answer.progress);
    else {
      const before = this.#master?.gainDecibels ?? 0;
      this.#master = answer.master;
      this.#tellMeasuring(null);
      const isOther = Math.abs(before - answer.master.gainDecibels) > SAME_DECIBELS;
      if (isOther && this.#state === "playing" && !this.#solo) this.#restart(this.filmSeconds());
    }
  }

  /** Asks for sound from a place on; what was playing goes on until it comes. */
  #restart(fromSeconds: number): void {
    const { track } = this;
    if (!track) return;
    this.#position = fromSeconds;
    this.#stream++;
    this.#ended = false;
    this.#nextTime = 0;
    this.#asked = 0;
    const wish: StreamWish = {
      sound: track.sound,
      fromSeconds,
      ...this.#wish,
      masterDecibels: this.#master?.gainDecibels ?? 0,
      soloed: this.#solo ? [] : this.#soloed,
    };
    this.#send({ kind: "start", stream: this.#stream, wish, sampleRate: SAMPLE_RATE });
    this.#ask();
    this.#timer ??= setInterval(() => this.#ask(), TICK_MILLISECONDS);
  }

  /** Keeps enough sound ready. */
  #ask(): void {
    if (!this.#context || this.#ended) return;
    const ready = this.#nextTime === 0 ? 0 : this.#nextTime - this.#context.currentTime;
    const count = Math.ceil((AHEAD_SECONDS - ready) / CHUNK_SECONDS) - this.#asked;
    if (count <= 0) return;
    this.#asked += count;
    this.#send({ kind: "more", stream: this.#stream, count });
  }

  /** Plays a chunk right behind the one before, to the sample. */
  #take({ stream, channels, fromSeconds, toSeconds, ends, peaks }: MixAnswer & { kind: "chunk" }): void {
    const context = this.#context;
    if (stream !== this.#stream || this.#state !== "playing" || !context) return;
    this.#asked--;
    const earliest = context.currentTime + (this.#nextTime === 0 ? START_DELAY_SECONDS : 0.005);
    if (this.#nextTime === 0) for (const old of this.#scheduled) old.source.stop(earliest);
    if (this.#nextTime === 0) this.#scheduled = [];
    const startTime = this.#nextTime >= earliest ? this.#nextTime : Math.ceil(earliest * SAMPLE_RATE) / SAMPLE_RATE;
    const buffer = context.createBuffer(2, channels[0].length, SAMPLE_RATE);
    buffer.copyToChannel(channels[0] as Float32Array<ArrayBuffer>, 0);
    buffer.copyToChannel(channels[1] as Float32Array<ArrayBuffer>, 1);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    source.start(startTime);
    const endTime = startTime + channels[0].length / SAMPLE_RATE;
    this.#nextTime = endTime;
    this.#scheduled.push({ source, startTime, endTime, fromSeconds, toSeconds, peaks });
    const past = context.currentTime - 1;
    if (itemAt(this.#scheduled, 0).endTime < past)
      this.#scheduled = this.#scheduled.filter((chunk) => chunk.endTime >= past);
    if (!ends) return;
    this.#ended = true;
    source.onended = () => {
      if (stream !== this.#stream || this.#state !== "playing") return;
      this.#silence();
      this.#position = this.lengthSeconds;
      this.#become("ready");
    };
  }

  #silence(): void {
    this.#stream++;
    for (const { source } of this.#scheduled) {
      source.onended = null;
      source.stop();
    }
    this.#scheduled = [];
    if (this.#timer !== null) clearInterval(this.#timer);
    this.#timer = null;
  }

  #send(request: MixRequest): void {
    this.#mixing?.worker.postMessage(request);
  }

  #startMixing(): { worker: Worker; sounds: MixSounds } {
    const worker = new Worker(new URL("./mix-worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<MixAnswer>) => this.#heed(data);
    return { worker, sounds: new MixSounds(worker) };
  }

  #become(state: PlayerState): void {
    this.#state = state;
    this.dispatchEvent(new Event("state"));
    this.dispatchEvent(new Event("move"));
  }
}

function isSameSound(a: Track | null, b: Track | null): boolean {
  return JSON.stringify(a?.sound) === JSON.stringify(b?.sound);
}
