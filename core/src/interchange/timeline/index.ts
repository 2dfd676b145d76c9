import { type Chapter, chaptersOf, type FilmPlan, type FilmSlot } from "../../film/index.ts";
import { clipAt } from "../../picture/index.ts";
import { itemAt } from "../../presence/index.ts";
import { type ShowDocument, takeOf } from "../../show/index.ts";
import { type FrameRate, type Frames, framesPerSecond, type Milliseconds, type Seconds } from "../../time/index.ts";
import { mediaNames } from "./media-names.ts";

export { mediaNames };

/**
 * A film as other programs lay it out: plain data that every writer of open timelines reads. Frames
 * are of the film, ends exclusive.
 */
export interface Timeline {
  readonly name: string;
  readonly rate: FrameRate;
  readonly totalFrames: Frames;
  /** Where the files lie, seen from the timeline: "media/"; "": beside it. */
  readonly mediaFolder: string;
  readonly items: readonly TimelineItem[];
  readonly sounds: readonly TimelineSound[];
  readonly chapters: readonly Chapter[];
}

export interface TimelineItem {
  /** What people call it. */
  readonly name: string;
  /** As `mediaNames` has it; null for a card, which is only words. */
  readonly fileName: string | null;
  /** The slots tile the film. */
  readonly startFrame: Frames;
  readonly endFrame: Frames;
  /** Of the transition into it; a cut has none and both are `startFrame`. */
  readonly transition: { readonly kind: string; readonly startFrame: Frames; readonly endFrame: Frames };
  /**
   * Of a clip: the second of its own that is shown in `startFrame`, and how many of its seconds
   * pass in one of the film; null for a still.
   */
  readonly clip: { readonly startSeconds: Seconds; readonly speed: number } | null;
  readonly words: readonly string[];
  readonly landingSeconds: Seconds | null;
  readonly landingErrorMs: Milliseconds | null;
  readonly landingKind: string | null;
}

export interface TimelineSound {
  readonly name: string;
  readonly fileName: string;
  readonly kind: "song" | "voice" | "clip";
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
  /** Of the recording, where it begins to be heard. */
  readonly soundStartSeconds: Seconds;
}

/** A planned film as a timeline. O(slots + sounds). */
export function timelineOf(show: ShowDocument, plan: FilmPlan, mediaFolder = ""): Timeline {
  const names = mediaNames(show);
  return {
    name: show.title,
    rate: plan.rate,
    totalFrames: plan.totalFrames,
    mediaFolder,
    items: plan.slots.map((slot) => itemOf(names, slot, plan.rate)),
    sounds: soundsOf(show, names, plan),
    chapters: chaptersOf(show, plan),
  };
}

type MediaNames = ReadonlyMap<string, string>;

function itemOf(names: MediaNames, slot: FilmSlot, rate: FrameRate): TimelineItem {
  const fileName = slot.sha256 === null ? null : (names.get(slot.sha256) ?? slot.name);
  const { startFrame, endFrame, transitionIn, clip, words } = slot;
  const first = clip && clipAt(clip, slot.index, startFrame);
  const { kind, startFrame: from, endFrame: to } = transitionIn;
  return {
    name: fileName ?? slot.name,
    fileName,
    startFrame,
    endFrame,
    transition: kind === "cut" ? { kind, startFrame, endFrame: startFrame } : { kind, startFrame: from, endFrame: to },
    clip: first && clip ? { startSeconds: first.seconds, speed: clip.secondsPerFrame * framesPerSecond(rate) } : null,
    words: words.sheet.map(({ text }) => text),
    landingSeconds: slot.landing?.seconds ?? null,
    landingErrorMs: slot.landingErrorMs,
    landingKind: slot.landing?.kind ?? null,
  };
}

function soundsOf(show: ShowDocument, names: MediaNames, { sound }: FilmPlan): TimelineSound[] {
  const songs = new Map(show.songs.map(({ id, sha256 }) => [id, names.get(sha256)]));
  const voices = new Map(show.voices.map((voice) => [voice.id, names.get(takeOf(voice).sha256)]));
  const slides = new Map(show.slides.map(({ id, sha256 }) => [id, sha256 === null ? undefined : names.get(sha256)]));
  return sound.pieces.flatMap(({ owner, time }): TimelineSound[] => {
    const [first, last] = [time[0], time.at(-1)];
    const fileName = { song: songs, voice: voices, clip: slides }[owner.kind].get(owner.id);
    if (!first || !last || !fileName) return [];
    return [
      {
        name: fileName,
        fileName,
        kind: owner.kind,
        startSeconds: first.filmSeconds,
        endSeconds: last.filmSeconds,
        soundStartSeconds: first.soundSeconds,
      },
    ];
  });
}

/** What another program made of a film: where its pictures begin, as far as a file says so. */
export interface ImportedTimeline {
  readonly name: string;
  readonly rate: FrameRate;
  /** Rising; the first begins the film, at 0. */
  readonly items: readonly { readonly name: string; readonly startFrame: Frames; readonly endFrame: Frames }[];
  /** What could not be taken over, each as a sentence. */
  readonly remarks: readonly string[];
}

/** How one change lies in another program's file against the film's. */
export interface TimingDifference {
  readonly name: string;
  /** Of the film's change; null for what only the file has. */
  readonly ownSeconds: Seconds | null;
  readonly otherSeconds: Seconds | null;
}

/**
 * Compares where pictures begin, by name and in order: the longest run that both have in common is
 * matched (longest common subsequence), and what only one side has is listed with null. Times that
 * differ by less than half a frame of the coarser rate are the same. O(items squared).
 */
export function compareTimings(own: Timeline, other: ImportedTimeline): TimingDifference[] {
  const [a, b] = [own.items, other.items];
  const lengths = Array.from({ length: a.length + 1 }, () => new Uint32Array(b.length + 1));
  const same = (i: number, j: number): boolean => plainName(itemAt(a, i).name) === plainName(itemAt(b, j).name);
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      itemAt(lengths, i)[j] = same(i, j)
        ? itemAt(itemAt(lengths, i + 1), j + 1) + 1
        : Math.max(itemAt(itemAt(lengths, i + 1), j), itemAt(itemAt(lengths, i), j + 1));
  const tolerance = 0.5 / Math.min(framesPerSecond(own.rate), framesPerSecond(other.rate));
  const ownAt = (i: number): number => itemAt(a, i).startFrame / framesPerSecond(own.rate);
  const otherAt = (j: number): number => itemAt(b, j).startFrame / framesPerSecond(other.rate);
  const differences: TimingDifference[] = [];
  for (let i = 0, j = 0; i < a.length || j < b.length; ) {
    if (i < a.length && j < b.length && same(i, j)) {
      if (Math.abs(ownAt(i) - otherAt(j)) >= tolerance)
        differences.push({ name: itemAt(a, i).name, ownSeconds: ownAt(i), otherSeconds: otherAt(j) });
      i++;
      j++;
    } else if (
      j >= b.length ||
      (i < a.length && itemAt(itemAt(lengths, i + 1), j) >= itemAt(itemAt(lengths, i), j + 1))
    ) {
      differences.push({ name: itemAt(a, i).name, ownSeconds: ownAt(i), otherSeconds: null });
      i++;
    } else {
      differences.push({ name: itemAt(b, j).name, ownSeconds: null, otherSeconds: otherAt(j) });
      j++;
    }
  }
  return differences;
}

/** Programs change case and drop the ending of a file's name. */
const plainName = (name: string): string =>
  name
    .trim()
    .toLowerCase()
    .replace(/\.[a-z0-9]{2,4}$/, "");
