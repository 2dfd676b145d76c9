import { counted } from "../language/index.ts";
import type { ShowDocument, Slide } from "./document.ts";
import type { ShowSong } from "./show-song.ts";

/**
 * What happened between two revisions of a show, as short phrases for people, the weightiest first: "3 pictures came in", "order
 * changed". Empty where the documents are equal.
 */
export function describeChange(before: ShowDocument, after: ShowDocument): string[] {
  const old = new Map(before.slides.map((slide) => [slide.id, slide]));
  const now = new Map(after.slides.map((slide) => [slide.id, slide]));
  const arrived = after.slides.filter((slide) => !old.has(slide.id));
  const gone = before.slides.filter((slide) => !now.has(slide.id));
  const differing = (differs: (a: Slide, b: Slide) => boolean): Slide[] =>
    after.slides.filter((slide) => {
      const was = old.get(slide.id);
      return was !== undefined && was !== slide && differs(was, slide);
    });
  const phrases: (string | false)[] = [
    arrived.length > 0 && `${pictures(arrived)} came in`,
    gone.length > 0 && `${pictures(gone)} taken out`,
    songsChanged(before, after),
    orderChanged(before, after, old, now) && "order changed",
    ifAny(
      differing((a, b) => a.rating !== b.rating || a.hero !== b.hero),
      "rated",
    ),
    ifAny(
      differing((a, b) => a.turn !== b.turn),
      "turned",
    ),
    ifAny(
      differing((a, b) => a.caption !== b.caption),
      "captioned",
    ),
    ifAny(
      differing((a, b) => !same(a.landingLock, b.landingLock)),
      "locked or unlocked",
    ),
    ifAny(
      differing((a, b) => !same([a.length, a.stays], [b.length, b.stays])),
      "given a length or a place",
    ),
    ifAny(
      differing((a, b) => !same(a.clip, b.clip)),
      "shown from and to elsewhere",
    ),
    ifAny(
      differing((a, b) => !same(a.sound, b.sound)),
      "heard otherwise",
    ),
    ifAny(
      differing((a, b) => !same(a.style, b.style)),
      "given a style",
    ),
    ifAny(
      differing((a, b) => !same([a.subject, a.views], [b.subject, b.views])),
      "framed",
    ),
    !same(before.passages, after.passages) && "passages changed",
    before.title !== after.title && `named “${after.title}”`,
    !same([before.event, before.date, before.client], [after.event, after.date, after.client]) && "facts of the event",
    before.posterSlideId !== after.posterSlideId && "poster chosen",
    before.orderLocked !== after.orderLocked && (after.orderLocked ? "order locked" : "order unlocked"),
    !same(before.clockOffsets, after.clockOffsets) && "camera clocks put right",
    songDiffers(before, after, ["gridEdits"]) && "grid corrected",
    songDiffers(before, after, ["markers"]) && "markers changed",
    songDiffers(before, after, ["joins", "refusedJoins", "speed"]) && "song rearranged",
    songDiffers(before, after, ["trimStartSeconds", "trimEndSeconds", "entry", "fadeInBars", "fadeOutBars", "level"]) &&
      "song trimmed or faded",
    !same(before.voices, after.voices) && "voices changed",
    (!same(before.mix, after.mix) || songDiffers(before, after, ["decibels", "muted"])) && "sound mixed",
    !same(before.lead, after.lead) && "who leads changed",
    !same(before.pace, after.pace) && "pace changed",
    !same(before.style, after.style) && "style changed",
    !same(before.transitionLanding, after.transitionLanding) && "how changes meet their landings",
    before.standsStill !== after.standsStill && (after.standsStill ? "moves switched off" : "moves switched on"),
    before.seed !== after.seed && "drawn again",
    !same([before.frameRate, before.size], [after.frameRate, after.size]) && "format changed",
    !same(before.outputs, after.outputs) && "outputs changed",
    !same(before.clientOffer, after.clientOffer) && "client page changed",
  ];
  return phrases.filter((phrase) => phrase !== false);
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const pictures = (slides: readonly Slide[]): string =>
  slides.length === 1 ? `“${slides[0]!.fileName}”` : counted(slides.length, "picture");
const ifAny = (slides: readonly Slide[], what: string): string | false =>
  slides.length > 0 && `${pictures(slides)} ${what}`;

/** What happened to the list of songs itself. */
function songsChanged(before: ShowDocument, after: ShowDocument): string | false {
  if (
    same(
      before.songs.map((song) => song.id + song.sha256),
      after.songs.map((song) => song.id + song.sha256),
    )
  ) {
    return false;
  }
  if (after.songs.length === 0) return "song taken out";
  return `song: ${after.songs.map((song) => song.fileName).join(", ")}`;
}

/** Whether a song that both have differs in one of these. */
function songDiffers(before: ShowDocument, after: ShowDocument, keys: readonly (keyof ShowSong)[]): boolean {
  return after.songs.some((song) => {
    const was = before.songs.find((other) => other.id === song.id && other.sha256 === song.sha256);
    return was !== undefined && was !== song && keys.some((key) => !same(was[key], song[key]));
  });
}

/** Whether the slides that both have stand in another order. */
function orderChanged(
  before: ShowDocument,
  after: ShowDocument,
  old: ReadonlyMap<string, Slide>,
  now: ReadonlyMap<string, Slide>,
): boolean {
  const was = before.slides.filter((slide) => now.has(slide.id));
  const is = after.slides.filter((slide) => old.has(slide.id));
  return was.some((slide, index) => slide.id !== is[index]!.id);
}
