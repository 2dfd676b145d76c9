import type { HummingTideError } from "../../errors/index.ts";
import { itemAt, lastOf } from "../../presence/index.ts";
import { type FrameRate, type Frames, framesPerSecond, NAMED_FRAME_RATES } from "../../time/index.ts";
import { interchangeError } from "../interchange-errors.ts";
import type { ImportedTimeline, Timeline, TimelineItem, TimelineSound } from "../timeline/index.ts";

/**
 * OpenTimelineIO JSON: Timeline.1 > Stack.1 > Track.1 > Clip.2, Gap.1, Transition.1; times as
 * RationalTime.1. Schema names and fields are written from memory of the open standard: no
 * reference program is among this project's packages, so they are held by golden files and by
 * reading back.
 */
type Json = { readonly [key: string]: unknown };

/** Everything that has no field of its own in the standard stands under this key. */
const OWN = "humming_tide";

/**
 * A timeline as OpenTimelineIO JSON (ASWF, schema Timeline.1): one video track with transitions,
 * the sound below it, and markers. Times are frames at the timeline's rate.
 */
export function writeOtio(timeline: Timeline): string {
  const time = rationalTime(timeline.rate);
  const { rate, totalFrames } = timeline;
  const video = timeline.items.flatMap((item, index) => {
    const { kind, startFrame, endFrame } = item.transition;
    const transition: Json[] =
      index > 0 && endFrame > startFrame
        ? [
            {
              OTIO_SCHEMA: "Transition.1",
              metadata: { [OWN]: { kind } },
              name: kind,
              transition_type: kind === "dissolve" ? "SMPTE_Dissolve" : "Custom_Transition",
              in_offset: time(item.startFrame - startFrame),
              out_offset: time(endFrame - item.startFrame),
            },
          ]
        : [];
    return [...transition, clipOf(item, timeline)];
  });
  const markers = timeline.chapters.map(({ title, startFrame, endFrame }) => ({
    OTIO_SCHEMA: "Marker.2",
    metadata: {},
    name: title,
    color: "ORANGE",
    marked_range: timeRange(rate, startFrame, endFrame - startFrame),
  }));
  const document: Json = {
    OTIO_SCHEMA: "Timeline.1",
    metadata: { [OWN]: { frame_rate: `${rate.num}/${rate.den}`, total_frames: totalFrames } },
    name: timeline.name,
    global_start_time: time(0),
    tracks: {
      OTIO_SCHEMA: "Stack.1",
      metadata: {},
      name: "tracks",
      source_range: null,
      effects: [],
      markers,
      enabled: true,
      children: [
        track("Pictures", "Video", video),
        ...(["song", "voice", "clip"] as const).flatMap((kind) =>
          lanesOf(timeline.sounds.filter((sound) => sound.kind === kind)).map((lane, index) =>
            track(`${SOUND_NAMES[kind]} ${index + 1}`, "Audio", soundTrack(lane, timeline)),
          ),
        ),
      ],
    },
  };
  return `${JSON.stringify(document, null, 2)}\n`;
}

const SOUND_NAMES = { song: "Music", voice: "Voices", clip: "Clips" } as const;

/** Half a frame is the nearest that a rate can say. */
const rationalTime =
  (rate: FrameRate) =>
  (value: number): Json => ({ OTIO_SCHEMA: "RationalTime.1", rate: framesPerSecond(rate), value });

const timeRange = (rate: FrameRate, start: number, duration: number): Json => ({
  OTIO_SCHEMA: "TimeRange.1",
  start_time: rationalTime(rate)(start),
  duration: rationalTime(rate)(duration),
});

const track = (name: string, kind: "Video" | "Audio", children: readonly Json[]): Json => ({
  OTIO_SCHEMA: "Track.1",
  metadata: {},
  name,
  kind,
  source_range: null,
  effects: [],
  markers: [],
  enabled: true,
  children,
});

function clipOf(item: TimelineItem, { rate, mediaFolder }: Timeline): Json {
  const { name, clip, startFrame, endFrame, landingSeconds, landingErrorMs, landingKind, words } = item;
  const isChanged = clip !== null && Math.abs(clip.speed - 1) > 1e-6;
  const start = clip ? Math.round(clip.startSeconds * framesPerSecond(rate)) : 0;
  return {
    OTIO_SCHEMA: "Clip.2",
    metadata: {
      [OWN]: {
        landing: landingKind,
        landing_seconds: landingSeconds,
        landing_error_ms: landingErrorMs,
        ...(words.length > 0 ? { words } : {}),
      },
    },
    name,
    source_range: timeRange(rate, start, endFrame - startFrame),
    effects: isChanged
      ? [
          {
            OTIO_SCHEMA: "LinearTimeWarp.1",
            metadata: {},
            name: "speed",
            effect_name: "LinearTimeWarp",
            time_scalar: clip.speed,
          },
        ]
      : [],
    markers: [],
    enabled: true,
    media_references: { DEFAULT_MEDIA: mediaReference(item.fileName, mediaFolder, words) },
    active_media_reference_key: "DEFAULT_MEDIA",
  };
}

/** A file, relative to where the timeline lies; for a card, its words. */
function mediaReference(fileName: string | null, mediaFolder: string, words: readonly string[]): Json {
  if (fileName === null)
    return {
      OTIO_SCHEMA: "GeneratorReference.1",
      metadata: {},
      name: "card",
      available_range: null,
      available_image_bounds: null,
      generator_kind: "Title",
      parameters: { words },
    };
  return {
    OTIO_SCHEMA: "ExternalReference.1",
    metadata: {},
    name: fileName,
    available_range: null,
    available_image_bounds: null,
    target_url: `${mediaFolder}${encodeURIComponent(fileName)}`,
  };
}

/** Sounds that lie over each other stand on tracks of their own. */
function lanesOf(sounds: readonly TimelineSound[]): TimelineSound[][] {
  const lanes: TimelineSound[][] = [];
  for (const sound of [...sounds].sort((a, b) => a.startSeconds - b.startSeconds)) {
    const lane = lanes.find((other) => lastOf(other).endSeconds <= sound.startSeconds);
    if (lane) lane.push(sound);
    else lanes.push([sound]);
  }
  return lanes;
}

function soundTrack(sounds: readonly TimelineSound[], { rate, mediaFolder }: Timeline): Json[] {
  const fps = framesPerSecond(rate);
  const children: Json[] = [];
  let at = 0;
  for (const { name, fileName, startSeconds, endSeconds, soundStartSeconds } of sounds) {
    const start = Math.round(startSeconds * fps);
    const end = Math.max(start + 1, Math.round(endSeconds * fps));
    if (start > at)
      children.push({
        OTIO_SCHEMA: "Gap.1",
        metadata: {},
        name: "",
        source_range: timeRange(rate, 0, start - at),
        effects: [],
        markers: [],
        enabled: true,
      });
    children.push({
      OTIO_SCHEMA: "Clip.2",
      metadata: {},
      name,
      source_range: timeRange(rate, Math.round(soundStartSeconds * fps), end - start),
      effects: [],
      markers: [],
      enabled: true,
      media_references: { DEFAULT_MEDIA: mediaReference(fileName, mediaFolder, []) },
      active_media_reference_key: "DEFAULT_MEDIA",
    });
    at = end;
  }
  return children;
}

/** Larger ones are no timelines. */
const MOST_ITEMS = 20_000;

/**
 * Reads where the pictures of a timeline begin: the first video track, its clips and gaps one after
 * the other by their source ranges; transitions lie over them and move nothing. Clip.1 is read too.
 * Throws `timeline-unreadable` with the place.
 */
export function readOtio(text: string): ImportedTimeline {
  const document = parsed(text);
  const schema = String(document["OTIO_SCHEMA"]);
  if (!schema.startsWith("Timeline."))
    throw unreadable("the file", `it is a "${schema.slice(0, 40)}", and only a Timeline says when pictures are shown.`);
  const tracks = listIn(objectIn(document, "tracks", "the timeline"), "children", "its tracks");
  const video = tracks.filter((one) => one["kind"] === "Video");
  const first = video[0];
  if (!first) throw unreadable("the timeline", "it has no video track.");
  const remarks =
    video.length > 1 ? [`${video.length} picture tracks: the lowest is compared, the others are passed over.`] : [];
  const children = listIn(first, "children", "the video track");
  if (children.length > MOST_ITEMS) throw unreadable("the video track", `it has more than ${MOST_ITEMS} items.`);
  let rate: FrameRate | null = null;
  let at = 0;
  const items: { name: string; startFrame: Frames; endFrame: Frames }[] = [];
  for (const [index, child] of children.entries()) {
    const kind = itemAt(String(child["OTIO_SCHEMA"]).split("."), 0);
    const place = `item ${index + 1}`;
    if (kind === "Transition") continue;
    const range = (child["source_range"] ?? availableRange(child)) as Json | null;
    if (!range) throw unreadable(place, "it has no source range, so nothing says how long it is.");
    const duration = objectIn(range, "duration", place);
    const frames = numberIn(duration, "value", place);
    rate ??= rateOf(numberIn(duration, "rate", place), place);
    const length = (frames * framesPerSecond(rate)) / numberIn(duration, "rate", place);
    if (length < 0) throw unreadable(place, "its duration is negative.");
    if (kind !== "Gap")
      items.push({
        name: textIn(child, "name", 1024),
        startFrame: Math.round(at),
        endFrame: Math.round(at + length),
      });
    at += length;
  }
  if (!rate || items.length === 0) throw unreadable("the video track", "there is no picture in it.");
  return { name: textIn(document, "name", 200), rate, items, remarks };
}

function parsed(text: string): Json {
  try {
    const document = JSON.parse(text) as unknown;
    if (document && typeof document === "object" && !Array.isArray(document)) return document as Json;
  } catch (cause) {
    throw unreadable("the file", `it is no JSON (${(cause as Error).message.slice(0, 120)}).`, cause);
  }
  throw unreadable("the file", "it holds no object.");
}

const availableRange = (clip: Json): unknown => {
  const reference = clip["media_reference"] as Json | null | undefined;
  return reference?.["available_range"] ?? null;
};

function objectIn(owner: Json, key: string, place: string): Json {
  const value = owner[key];
  if (value && typeof value === "object" && !Array.isArray(value)) return value as Json;
  throw unreadable(place, `"${key}" is missing.`);
}

function listIn(owner: Json, key: string, place: string): Json[] {
  const value = owner[key];
  if (Array.isArray(value) && value.every((one) => one && typeof one === "object")) return value as Json[];
  throw unreadable(place, `"${key}" is no list.`);
}

/** Empty where it is missing or no text. */
const textIn = (owner: Json, key: string, most: number): string => {
  const value = owner[key];
  return typeof value === "string" ? value.slice(0, most) : "";
};

function numberIn(owner: Json, key: string, place: string): number {
  const value = owner[key];
  if (typeof value === "number" && Number.isFinite(value) && Math.abs(value) < 1e9) return value;
  throw unreadable(place, `"${key}" is no number.`);
}

/** A rate in decimals as the fraction that is meant. */
function rateOf(decimal: number, place: string): FrameRate {
  if (decimal < 1 || decimal > 240)
    throw unreadable(place, `its rate is ${decimal}; films have 1 to 240 frames a second.`);
  const named = Object.values(NAMED_FRAME_RATES).find((rate) => Math.abs(framesPerSecond(rate) - decimal) < 0.002);
  return named ?? { num: Math.round(decimal * 1000), den: 1000 };
}

const unreadable = (place: string, why: string, cause?: unknown): HummingTideError =>
  interchangeError("timeline-unreadable", { place, why }, { cause });
