import { type ClipFacts, isSeen, type MediaFacts, type PictureFacts } from "@humming-tide/contract";
import { counted } from "@humming-tide/core/language";
import {
  commonSeconds,
  eventZone,
  type PictureQuality,
  type PictureShape,
  pictureShape,
} from "@humming-tide/core/photo-analysis";
import { turnedSize } from "@humming-tide/core/picture";
import { hasPicture, type ShowDocument, type Slide } from "@humming-tide/core/show";
import type { Seconds } from "@humming-tide/core/time";

export type Media = Readonly<Record<string, MediaFacts>>;

/** What is known of a slide's file; undefined while it is not loaded, or gone. */
export function seenFacts(media: Media, slide: Slide): PictureFacts | ClipFacts | undefined {
  const facts = slide.sha256 === null ? undefined : media[slide.sha256];
  return isSeen(facts) ? facts : undefined;
}

/**
 * Blur from here up is pointed out. Found by looking at photographs and paintings, sharp and
 * softened (docs/gather.md).
 */
const SOFT_FROM = 0.6;

export const isSoft = (facts: PictureFacts | ClipFacts | undefined): boolean =>
  facts?.kind === "picture" && facts.blur !== null && facts.blur >= SOFT_FROM;

/** Whether a clip lies in the picture's file. */
export const holdsClip = (facts: PictureFacts | ClipFacts | undefined): boolean =>
  facts?.kind === "picture" && facts.movingPart !== null;

/** What of near-identical pictures is better; null where it was not measured. */
export function qualityOf(media: Media, slide: Slide): PictureQuality {
  const facts = seenFacts(media, slide);
  return {
    blur: facts?.blur ?? null,
    headBlur: facts?.subject?.headBlur ?? null,
    openEyes: facts?.subject?.openEyes ?? null,
  };
}

export function shapeOf(facts: PictureFacts | ClipFacts, slide: Slide): PictureShape {
  return pictureShape(turnedSize(facts, slide.turn));
}

/** Seconds on the show's common clock; null where the file does not say. */
export function slideSeconds(media: Media, show: ShowDocument, slide: Slide): number | null {
  const facts = seenFacts(media, slide);
  return facts ? commonSeconds(facts, show.clockOffsets, zoneOf(media)) : null;
}

/** Of the event whose files these are; it is asked for each of its slides. */
const knownZones = new WeakMap<Media, number>();

function zoneOf(media: Media): number {
  const known = knownZones.get(media);
  if (known !== undefined) return known;
  const zone = eventZone(Object.values(media).filter(isSeen), (at) => -new Date(at).getTimezoneOffset());
  knownZones.set(media, zone);
  return zone;
}

/** "19:04" on the common clock; empty where unknown. */
export function timeText(seconds: number | null): string {
  return seconds === null ? "" : new Date(seconds * 1000).toISOString().slice(11, 16);
}

const dayOf = new Intl.DateTimeFormat("en-GB", { timeZone: "UTC", day: "numeric", month: "short" });

/** "21 Jun, 13:35 to 14:38", or "21 Jun, 22:10 to 22 Jun, 01:05", on the common clock. */
export function spanText(fromSeconds: Seconds, toSeconds: Seconds): string {
  const [firstDay, lastDay] = [dayOf.format(1000 * fromSeconds), dayOf.format(1000 * toSeconds)];
  const end = timeText(toSeconds);
  return `${firstDay}, ${timeText(fromSeconds)} to ${firstDay === lastDay ? end : `${lastDay}, ${end}`}`;
}

/** "21 Jun 2031, 19:04:11" on the common clock. */
export function momentText(seconds: number): string {
  return new Date(seconds * 1000).toLocaleString("en-GB", {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
    second: "2-digit",
  });
}

/** "28 pictures, 2 clips, 1 card"; "0 pictures" where there is nothing. */
export function contentText(media: Media, slides: readonly Slide[]): string {
  const files = slides.filter(hasPicture);
  const clips = files.filter(({ sha256 }) => media[sha256]?.kind === "clip").length;
  const pictures = files.length - clips;
  const cards = slides.length - files.length;
  const parts = [
    ...(pictures > 0 || slides.length === 0 ? [counted(pictures, "picture")] : []),
    ...(clips > 0 ? [counted(clips, "clip")] : []),
    ...(cards > 0 ? [counted(cards, "card")] : []),
  ];
  return parts.join(", ");
}
