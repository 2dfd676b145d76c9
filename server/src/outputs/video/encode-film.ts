import { rm, writeFile } from "node:fs/promises";
import path from "node:path";
import type { Chapter, FilmPlan } from "@humming-tide/core/film";
import { isMeasurableFromFrames } from "@humming-tide/core/interchange";
import { ChangeWatch, framesAroundChange, sharesOf } from "@humming-tide/core/measure";
import { FILM_SAMPLE_RATE } from "../../media/decode-sound.ts";
import { ownFile, startFfmpeg } from "../../media/ffmpeg.ts";
import { chapterList } from "./chapter-list.ts";
import type { ClipFrames } from "./clip-frames.ts";
import type { FilmParts } from "./film-parts.ts";
import { type FilmSegment, filmSegments } from "./film-segments.ts";
import { type FileForm, VIDEO_FORMATS } from "./formats/index.ts";
import { FramePainter } from "./frame-painter.ts";
import type { PathOfImage } from "./picture-cache.ts";
import { renderFrames } from "./render-frames.ts";
import { SegmentEncoder } from "./segment-encoder.ts";
import { MIX_CHANNELS, writeMix } from "./write-mix.ts";

export interface EncodeRequest {
  readonly plan: FilmPlan;
  readonly form: FileForm;
  /** The decode of a sound (MediaLibrary.ensureSound). */
  readonly flacPathOf: (soundName: string) => string;
  readonly pathOfImage: PathOfImage;
  readonly clips: ClipFrames;
  readonly parts: FilmParts;
  readonly filmPath: string;
  readonly title: string;
  readonly chapters: readonly Chapter[];
  /** A JPEG; null for none. */
  readonly posterPath: string | null;
  readonly signal: AbortSignal;
  readonly onFrame: (framesDone: number) => void;
}

/**
 * Draws, mixes and encodes a film in segments, and joins them: what `parts` has already is not made
 * again. Frames are counted, sound is counted in samples: both end together. Aborting ends the
 * encoders and throws the signal's reason. Gives the shares of the changes that a film could not
 * tell by itself (film report). Throws `ffmpeg-failed` with the encoder's words.
 */
export async function encodeFilm(request: EncodeRequest): Promise<ReadonlyMap<number, readonly number[]>> {
  const { plan, parts, signal } = request;
  const segments = filmSegments(plan.totalFrames, plan.rate);
  const failed = new AbortController();
  // Encoded beside the picture: it takes a hundredth of the time.
  const sound = await beginSound({ ...request, signal: AbortSignal.any([signal, failed.signal]) });
  try {
    await encodeSegments(request, segments);
    await sound.finished;
  } catch (error) {
    failed.abort();
    await sound.finished.catch(() => undefined);
    throw error;
  }
  await joinParts(request, segments);
  signal.throwIfAborted();
  return drawnShares(plan, segments, parts);
}

/** Runs ffmpeg to its end; aborting kills it. */
async function runFfmpeg(args: readonly string[], signal: AbortSignal): Promise<void> {
  signal.throwIfAborted();
  const { child, finished } = await startFfmpeg(args);
  const stop = (): void => void child.kill("SIGKILL");
  signal.addEventListener("abort", stop);
  try {
    child.stdin.end();
    await finished;
  } finally {
    signal.removeEventListener("abort", stop);
    signal.throwIfAborted();
  }
}

const mixPathOf = (parts: FilmParts): string => path.join(parts.folder, "mix.f32");

/** Mixes the film's sound, unless it is there, and begins to encode it. */
async function beginSound(request: EncodeRequest): Promise<{ readonly finished: Promise<void> }> {
  const { plan, flacPathOf, parts, signal } = request;
  if (await parts.hasSound()) return { finished: Promise.resolve() };
  await writeMix({ plan, flacPathOf, mixPath: mixPathOf(parts), signal });
  const finished = encodeSound(request);
  // Waited for when the picture is done.
  finished.catch(() => undefined);
  return { finished };
}

async function encodeSound({ parts, form, signal }: EncodeRequest): Promise<void> {
  const place = parts.soundPath;
  await encodeMixed(form, mixPathOf(parts), parts.unfinished(place), signal);
  await parts.finish(place);
}

async function encodeMixed(form: FileForm, mixPath: string, soundPath: string, signal: AbortSignal): Promise<void> {
  const raw = ["-f", "f32le", "-ar", String(FILM_SAMPLE_RATE), "-ac", String(MIX_CHANNELS)];
  const { sound, soundFile } = VIDEO_FORMATS[form.container];
  await runFfmpeg(
    [...raw, ...ownFile(mixPath), ...sound(form.quality), ...soundFile, "-y", `file:${soundPath}`],
    signal,
  );
}

/**
 * The sound of a film by itself, mixed (at `mixPath`, for as long as it takes) and encoded. Throws
 * `song-missing`, `ffmpeg-failed`, and the signal's reason.
 */
export async function encodeMix(
  request: Pick<EncodeRequest, "plan" | "form" | "flacPathOf" | "signal"> & {
    readonly mixPath: string;
    readonly soundPath: string;
  },
): Promise<void> {
  const { form, mixPath, soundPath, signal } = request;
  await writeMix(request);
  await encodeMixed(form, mixPath, soundPath, signal);
  await rm(mixPath, { force: true });
}

async function encodeSegments(request: EncodeRequest, segments: readonly FilmSegment[]): Promise<void> {
  const { plan, clips, parts, form, signal, onFrame } = request;
  const painter = new FramePainter(plan.size, request.pathOfImage, clips);
  const isMeasured = framesToMeasure(plan);
  const encoders = new Set<SegmentEncoder>();
  const stop = (): void => {
    for (const encoder of encoders) encoder.kill();
  };
  signal.addEventListener("abort", stop);
  // An encoder still has frames in work when it has got its last one: meanwhile the next segment is
  // drawn.
  let ending: Promise<void> = Promise.resolve();
  try {
    for (const segment of segments) {
      signal.throwIfAborted();
      if (await parts.hasSegment(segment)) {
        onFrame(segment.endFrame);
        continue;
      }
      const place = parts.segmentPath(segment);
      const encoder = await SegmentEncoder.start(plan, form, parts.unfinished(place));
      encoders.add(encoder);
      const smallFrames = new Map<number, Uint8Array>();
      await renderFrames(plan, painter, segment.fromFrame, segment.endFrame, async (yuv, frame) => {
        signal.throwIfAborted();
        await encoder.write(yuv);
        if (isMeasured(frame)) smallFrames.set(frame, painter.smallFrame());
        onFrame(frame + 1);
      });
      await ending;
      ending = (async () => {
        await encoder.end();
        encoders.delete(encoder);
        await parts.keepSmallFrames(segment, smallFrames);
        await parts.finish(place);
      })();
      ending.catch(() => undefined);
    }
    await ending;
  } finally {
    signal.removeEventListener("abort", stop);
    stop();
    await ending.catch(() => undefined);
    signal.throwIfAborted();
  }
}

/** The frames around the changes that a film cannot tell by itself. */
function framesToMeasure(plan: FilmPlan): (frame: number) => boolean {
  const wanted = new Set<number>();
  for (let index = 1; index < plan.slots.length; index++) {
    if (isMeasurableFromFrames(plan, index)) continue;
    const { from, to } = framesAroundChange(plan.slots, index);
    for (let frame = from; frame <= to; frame++) wanted.add(frame);
  }
  return (frame) => wanted.has(frame);
}

async function drawnShares(
  plan: FilmPlan,
  segments: readonly FilmSegment[],
  parts: FilmParts,
): Promise<Map<number, readonly number[]>> {
  const shares = new Map<number, readonly number[]>();
  const watch = new ChangeWatch(plan.slots, (seen) => {
    if (isMeasurableFromFrames(plan, seen.index) || seen.smallFrames.length < 2) return;
    // Rounded, the report stays small: a thousandth is far below what encoding changes.
    shares.set(
      seen.index,
      sharesOf(seen).map((share) => Math.round(share * 1000) / 1000),
    );
  });
  for (const segment of segments)
    for (const [frame, small] of await parts.smallFramesOf(segment)) watch.take(frame, small);
  watch.end(plan.totalFrames);
  return shares;
}

/** Puts the parts together, with chapters, and in MP4 a poster. */
async function joinParts(request: EncodeRequest, segments: readonly FilmSegment[]): Promise<void> {
  const { plan, parts, form, title, chapters, posterPath, filmPath, signal } = request;
  // Names of our own making, beside the list: nothing in it has to be escaped.
  const list = path.join(parts.folder, "segments.txt");
  await writeFile(list, segments.map((segment) => `file '${path.basename(parts.segmentPath(segment))}'\n`).join(""));
  const chapterPath = path.join(parts.folder, "chapters.txt");
  await writeFile(chapterPath, chapterList(chapters, plan.rate));
  const format = VIDEO_FORMATS[form.container];
  const poster = format.holdsPoster ? posterPath : null;
  const posterArgs = poster ? ["-map", "3:v", "-disposition:v:1", "attached_pic"] : [];
  await runFfmpeg(
    [
      ...["-f", "concat", ...ownFile(list), ...ownFile(parts.soundPath)],
      ...["-f", "ffmetadata", ...ownFile(chapterPath), ...(poster ? ownFile(poster) : [])],
      ...["-map", "0:v", "-map", "1:a", ...posterArgs, "-map_chapters", "2", "-c", "copy"],
      ...["-metadata", `title=${title}`, ...format.film(plan.rate), "-y", `file:${filmPath}`],
    ],
    signal,
  );
}
