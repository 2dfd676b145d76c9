import {
  type DrawnWords,
  type DrawSources,
  drawFrame,
  imageKey,
  imagesBetween,
  type PictureSlot,
  planFrame,
  slotIndexAt,
  type WordSheet,
} from "@humming-tide/core/picture";
import { itemAt, present } from "@humming-tide/core/presence";
import { framesPerSecond } from "@humming-tide/core/time";
import type { PlayerClip, PlayerFilm, PlayerImage, PlayerWords } from "@humming-tide/core/web-player";
import { FollowingVideo } from "../stage/following-video.ts";
import { stageGrain } from "../stage/stage-grain.ts";
import { StageScratch, surfaceOf } from "../stage/stage-surface.ts";
import { FilmImages } from "./film-images.ts";

/** Pictures are fetched this far ahead. */
const AHEAD_SECONDS = 8;
/** A frame whose pictures do not come is drawn without them after this long. */
const PATIENCE_MS = 1500;
/** What canvases of screens are at most. */
const LARGEST_WIDTH = 3840;

/**
 * Draws a film of a folder onto a canvas, as the stage and the export do. Emits "arrived" when what
 * was drawn last should be drawn again.
 */
export class FilmDrawing extends EventTarget {
  readonly #film: PlayerFilm;
  readonly #images: FilmImages;
  readonly #clips: FilmClips;
  readonly #scratch = new StageScratch();
  readonly #fileOf: ReadonlyMap<string, PlayerImage>;
  readonly #wordsOf: ReadonlyMap<string, PlayerWords>;
  readonly #sheetNames = new WeakMap<WordSheet, string>();
  #waitingSince: number | null = null;

  /** `folder`: where the files lie, with a slash at its end. */
  constructor(film: PlayerFilm, folder: string) {
    super();
    this.#film = film;
    this.#images = new FilmImages(folder);
    this.#images.addEventListener("arrived", () => this.dispatchEvent(new Event("arrived")));
    this.#clips = new FilmClips(film, folder, () => this.dispatchEvent(new Event("arrived")));
    this.#fileOf = new Map(film.images.map((image) => [image.key, image]));
    this.#wordsOf = new Map(film.words.map((words) => [JSON.stringify(words.sheet), words]));
  }

  /** Draws a frame; what stands on the canvas stays until the pictures of the new one are there. */
  draw(canvas: HTMLCanvasElement, frame: number, isPlaying: boolean): void {
    const { track } = this.#film;
    const { rate } = this.#film;
    const ahead = frame + Math.round(AHEAD_SECONDS * framesPerSecond(rate));
    const [first, last] = [slotIndexAt(track.slots, frame), slotIndexAt(track.slots, ahead)];
    const coming = track.slots.slice(Math.max(0, first - 1), last + 2);
    this.#images.preload(new Set([...this.#picturesBetween(frame, ahead), ...this.#wordFiles(coming)]));
    this.#clips.preload(frame, isPlaying);
    if (!this.#isReady(frame)) {
      this.#waitingSince ??= performance.now();
      if (performance.now() - this.#waitingSince < PATIENCE_MS) return;
    }
    this.#waitingSince = null;
    fitCanvas(canvas, track.size);
    const context = present(canvas.getContext("2d", { alpha: false }));
    const { width, height } = track.size;
    context.setTransform(canvas.width / width, 0, 0, canvas.height / height, 0, 0);
    const sources: DrawSources<CanvasImageSource> = {
      images: (name, clip) => {
        const video = clip && this.#clips.get(clip.slotIndex);
        return video ?? this.#imageOf(imageKey(name));
      },
      words: (sheet, index) => this.#drawnWords(sheet, index),
      grain: stageGrain,
      scratch: this.#scratch.for(canvas.width, canvas.height, width, height),
    };
    drawFrame(surfaceOf(context), planFrame(track, frame), sources);
    canvas.dataset["frame"] = String(frame);
  }

  #imageOf(key: string): ReturnType<FilmImages["get"]> {
    const image = this.#fileOf.get(key);
    return image ? this.#images.get(image.file) : null;
  }

  #picturesBetween(from: number, to: number): string[] {
    return imagesBetween(this.#film.track, from, to).flatMap((name) => this.#fileOf.get(imageKey(name))?.file ?? []);
  }

  #wordFiles(slots: readonly PictureSlot[]): string[] {
    const { watermark, loopBack } = this.#film.track;
    const sheets = [...slots, ...(loopBack ? [loopBack] : [])].map(({ words }) => words.sheet);
    return [...sheets, ...(watermark ? [watermark.sheet] : [])].flatMap(
      (sheet) => this.#wordsFor(sheet)?.drawn.flatMap(({ pieces }) => pieces.map(({ file }) => file)) ?? [],
    );
  }

  #wordsFor(sheet: WordSheet): PlayerWords | undefined {
    let name = this.#sheetNames.get(sheet);
    if (name === undefined) {
      name = JSON.stringify(sheet);
      this.#sheetNames.set(sheet, name);
    }
    return this.#wordsOf.get(name);
  }

  #drawnWords(sheet: WordSheet, index: number): DrawnWords<CanvasImageSource> | null {
    const drawn = this.#wordsFor(sheet)?.drawn[index];
    if (!drawn) return null;
    const pieces = drawn.pieces.flatMap(({ file, target, role, line, cuts }) => {
      const image = this.#images.get(file);
      return image ? [{ image, target, role, line, cuts }] : [];
    });
    return { pieces, height: drawn.height };
  }

  /** All that the frame itself shows is there. */
  #isReady(frame: number): boolean {
    const { slots } = this.#film.track;
    const index = slotIndexAt(slots, frame);
    const seen = [...this.#picturesBetween(frame, frame), ...this.#wordFiles([itemAt(slots, index)])];
    return seen.every((file) => this.#images.isSettled(file));
  }
}

/** The clips of a film around the place that is seen. */
class FilmClips {
  readonly #film: PlayerFilm;
  readonly #folder: string;
  readonly #onArrived: () => void;
  readonly #videos = new Map<number, { readonly clip: PlayerClip; readonly video: FollowingVideo }>();

  constructor(film: PlayerFilm, folder: string, onArrived: () => void) {
    this.#film = film;
    this.#folder = folder;
    this.#onArrived = onArrived;
  }

  preload(frame: number, isPlaying: boolean): void {
    const perSecond = framesPerSecond(this.#film.rate);
    const ahead = frame + AHEAD_SECONDS * perSecond;
    for (const [slotIndex, { clip, video }] of this.#videos) {
      if (clip.endFrame > frame && clip.startFrame <= ahead) continue;
      video.close();
      this.#videos.delete(slotIndex);
    }
    for (const clip of this.#film.clips) {
      if (clip.endFrame <= frame || clip.startFrame > ahead) continue;
      let there = this.#videos.get(clip.slotIndex);
      if (!there) {
        there = { clip, video: new FollowingVideo(this.#folder + clip.file, this.#onArrived) };
        this.#videos.set(clip.slotIndex, there);
      }
      const isSeen = frame >= clip.startFrame;
      const seconds = (isSeen ? frame - clip.startFrame : 0) / perSecond;
      there.video.follow({ seconds, isPlaying: isPlaying && isSeen, speed: 1, framesPerSecond: perSecond });
    }
  }

  get(slotIndex: number): { image: CanvasImageSource; width: number; height: number } | null {
    const there = this.#videos.get(slotIndex);
    if (!there?.video.isReady) return null;
    const { videoWidth: width, videoHeight: height } = there.video.element;
    return { image: there.video.element, width, height };
  }
}

function fitCanvas(canvas: HTMLCanvasElement, size: { readonly width: number; readonly height: number }): void {
  const width = Math.max(2, Math.min(LARGEST_WIDTH, Math.round(canvas.clientWidth * devicePixelRatio)));
  const height = Math.max(2, Math.round((width * size.height) / size.width));
  if (canvas.width === width && canvas.height === height) return;
  canvas.width = width;
  canvas.height = height;
}
