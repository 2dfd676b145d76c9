import type { ClipFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import sharp from "sharp";
import { type ClipPicture, clipPicture, type PictureStream, pictureFilters, pictureRemark } from "./clip-picture.ts";
import { frameTimes } from "./clip-times.ts";
import { inputFile, probe, startFfmpeg } from "./ffmpeg.ts";
import { mediaError } from "./media-errors.ts";
import { writePictureFiles } from "./picture-files.ts";
import { cameraName } from "./picture-intake.ts";
import { zoneMinutesOf } from "./zone-minutes.ts";

export const CLIP_FILES = { proxy: "proxy.mp4" } as const;

export type ClipIntake = Omit<ClipFacts, "kind" | "sha256" | "fileName" | "bytes" | "mime">;

/**
 * Frames may come this much early or late, beside the steps of the file's own clock, before the
 * rate counts as variable.
 */
const UNEVEN_SECONDS = 0.002;
/**
 * The poster is taken from here, as a share of the clip: the very first frames are often dark or
 * shaken.
 */
const POSTER_SHARE = 0.3;
const LARGEST_SIDE = 8192;
const POSTER_LIMIT_MS = 60_000;

interface ProbedStream extends PictureStream {
  readonly codec_type?: string;
  readonly codec_name?: string;
  readonly avg_frame_rate?: string;
  readonly r_frame_rate?: string;
  readonly duration?: string;
  readonly time_base?: string;
  readonly channels?: number;
  readonly sample_rate?: string;
  readonly sample_aspect_ratio?: string;
  readonly disposition?: { readonly attached_pic?: number };
  readonly tags?: Readonly<Record<string, string>>;
  readonly side_data_list?: readonly { readonly rotation?: number; readonly max_luminance?: string }[];
}

/**
 * Reads a clip's facts, decodes its poster and writes the poster's files. Throws `clip-damaged`,
 * `clip-too-large` or `ffmpeg-missing`.
 */
export async function takeInClip(original: string, folder: string, signal?: AbortSignal): Promise<ClipIntake> {
  const { video, audio, durationSeconds, tags } = await readStreams(original);
  const times = await frameTimes(original);
  if (times.length === 0) throw damaged("no frame of it can be read");
  const pace = framePace(times, video);
  const turnedDegrees = turnOf(video);
  const picture = clipPicture(video);
  const poster = await posterFrame(original, picture, durationSeconds * POSTER_SHARE, signal);
  const measures = await writePictureFiles(sharp(poster), folder);
  const { width, height } = await sharp(poster).metadata();
  // The header's length is a claim; the frames are what there is.
  const readSeconds = lastOf(times) - itemAt(times, 0) + pace.frameSeconds;
  const cutShort = durationSeconds - readSeconds > 1;
  return {
    width,
    height,
    turnedDegrees,
    ...capturedOf(tags),
    camera: cameraName(tagNamed(tags, "make"), tagNamed(tags, "model")),
    fingerprint: measures.fingerprint,
    blur: null,
    subject: measures.subject,
    durationSeconds: readSeconds,
    frameRate: pace.frameRate,
    variableRate: pace.variable,
    codec: video.codec_name ?? "unknown",
    sound:
      audio?.channels && Number(audio.sample_rate) > 0
        ? { channels: audio.channels, sampleRate: Number(audio.sample_rate) }
        : null,
    remark: cutShort
      ? `The file says ${durationSeconds.toFixed(1)} s, but only ${readSeconds.toFixed(1)} s of pictures are there: it is cut short.`
      : pictureRemark(picture),
  };
}

const damaged = (why: string, cause?: unknown): HummingTideError => mediaError("clip-damaged", { why }, { cause });

interface Streams {
  readonly video: ProbedStream;
  readonly audio: ProbedStream | undefined;
  readonly durationSeconds: number;
  readonly tags: Readonly<Record<string, string>>;
}

async function readStreams(original: string): Promise<Streams> {
  const answer = await probe(original, ["-show_streams", "-show_format"]).catch((cause: unknown) => {
    if (cause instanceof HummingTideError) throw cause;
    throw damaged("its header is not valid", cause);
  });
  const streams = (answer["streams"] ?? []) as ProbedStream[];
  const video = streams.find((stream) => stream.codec_type === "video" && stream.disposition?.attached_pic !== 1);
  const format = answer["format"] as { duration?: string; tags?: Record<string, string> } | undefined;
  if (!video?.width || !video.height) throw damaged("it has no moving pictures");
  if (Math.max(video.width, video.height) > LARGEST_SIDE) {
    throw mediaError("clip-too-large", {
      width: video.width,
      height: video.height,
      mostPixels: LARGEST_SIDE,
    });
  }
  const durationSeconds = Number(video.duration ?? format?.duration ?? 0) || Number(format?.duration ?? 0) || 0;
  const audio = streams.find((stream) => stream.codec_type === "audio");
  return { video, audio, durationSeconds, tags: { ...video.tags, ...format?.tags } };
}

interface FramePace {
  readonly frameRate: { readonly num: number; readonly den: number };
  readonly variable: boolean;
  readonly frameSeconds: number;
}

/**
 * Whether frames come evenly is told by their times, not by the header, which states both a mean
 * and a guess.
 */
function framePace(times: readonly number[], video: ProbedStream): FramePace {
  const steps = times.slice(1).map((time, index) => time - itemAt(times, index));
  const tick = fraction(video.time_base);
  const tolerance = UNEVEN_SECONDS + (tick ? tick.num / tick.den : 0);
  const span = lastOf(times) - itemAt(times, 0);
  const mean = steps.length > 0 ? span / steps.length : 0;
  const variable = steps.some((step) => Math.abs(step - mean) > tolerance);
  const stated = fraction(variable ? video.avg_frame_rate : (video.r_frame_rate ?? video.avg_frame_rate));
  // A stated rate that the frames contradict is not believed.
  const believable = stated && mean > 0 && Math.abs(stated.den / stated.num / mean - 1) < 0.02;
  const frameRate =
    believable || (stated && mean === 0) ? stated : { num: Math.max(1, Math.round(1000 / (mean || 0.04))), den: 1000 };
  return { frameRate: rounded(frameRate, mean), variable, frameSeconds: mean || frameRate.den / frameRate.num };
}

function rounded(rate: { num: number; den: number }, mean: number): { num: number; den: number } {
  return rate.den === 1000 && mean > 0 ? { num: Math.max(1, Math.round(1000 / mean)), den: 1000 } : rate;
}

function fraction(text: string | undefined): { num: number; den: number } | null {
  const match = /^(\d+)\/(\d+)$/.exec(text ?? "");
  const [num, den] = [Number(match?.[1]), Number(match?.[2])];
  return num > 0 && den > 0 ? { num, den } : null;
}

/** Degrees clockwise, 0 to 270. The side data counts against the clock, the older tag with it. */
function turnOf(video: ProbedStream): number {
  const sideData = video.side_data_list?.find(({ rotation }) => rotation !== undefined)?.rotation;
  const degrees = sideData !== undefined ? -sideData : Number(video.tags?.["rotate"] ?? 0);
  return (((Math.round(degrees / 90) * 90) % 360) + 360) % 360;
}

/**
 * A tag by its name, plain or behind its writer's own prefix ("com.example.make"), in small or
 * capital letters; empty where there is none.
 */
function tagNamed(tags: Readonly<Record<string, string>>, name: string): string {
  const key = Object.keys(tags).find((candidate) => {
    const own = candidate.toLowerCase();
    return own === name || own.endsWith(`.${name}`);
  });
  return key === undefined ? "" : present(tags[key]);
}

/**
 * When a clip was made: the local time where the camera wrote one, with its zone, else universal
 * time. Cameras without a clock write the beginning of the format's calendar.
 */
function capturedOf(
  tags: Readonly<Record<string, string>>,
): Pick<ClipFacts, "capturedAt" | "isUniversal" | "zoneMinutes"> {
  const local = tagNamed(tags, "creationdate");
  const match = /^(\d{4}-\d{2}-\d{2})[T ](\d{2}:\d{2}:\d{2})/.exec(local || tagNamed(tags, "creation_time"));
  if (!match || /^19(04|70)/.test(itemAt(match, 1))) return { capturedAt: null, isUniversal: false, zoneMinutes: null };
  return {
    capturedAt: `${match[1]}T${match[2]}`,
    isUniversal: local === "",
    zoneMinutes: local === "" ? null : zoneMinutesOf(local),
  };
}

/**
 * One whole frame near an instant as PNG, turned as the metadata asks; the first one where the
 * instant has none.
 */
async function posterFrame(
  original: string,
  picture: ClipPicture,
  atSeconds: number,
  signal?: AbortSignal,
): Promise<Buffer> {
  const { filters, ...started } = await pictureFilters(picture, "iw*sar:ih", "exact rgb");
  for (const seconds of [atSeconds, 0]) {
    const { child, finished } = await startFfmpeg(
      [
        ...["-ss", seconds.toFixed(3)],
        ...inputFile(original),
        ...["-map", "0:V:0", "-frames:v", "1", "-vf", [...filters, "setsar=1"].join(",")],
        ...["-f", "image2pipe", "-pix_fmt", "rgb24", "-c:v", "png", "-"],
      ],
      { ...started, ...(signal ? { signal } : {}), limitMs: POSTER_LIMIT_MS },
    );
    try {
      const chunks: Buffer[] = [];
      for await (const chunk of child.stdout) chunks.push(chunk as Buffer);
      await finished;
      if (chunks.length > 0) return Buffer.concat(chunks);
    } catch (cause) {
      if ((cause as { code?: string }).code !== "ffmpeg-failed") throw cause;
      if (seconds === 0) throw damaged((cause as Error).message, cause);
    } finally {
      child.kill("SIGKILL");
    }
  }
  throw damaged("no frame of it can be decoded");
}
