import { itemAt } from "../../presence/index.ts";
import type { ShowDocument, ShowSong, Slide } from "../document/index.ts";

/** What can happen to slides that are there before and after, in the order of the words. */
const SLIDE_CHANGES = {
  replaced: (a, b) => a.sha256 !== b.sha256,
  rated: (a, b) => a.rating !== b.rating || a.hero !== b.hero,
  turned: (a, b) => a.turn !== b.turn,
  captioned: (a, b) => a.caption !== b.caption,
  locked: (a, b) => !same(a.landingLock, b.landingLock),
  lengthened: (a, b) => !same([a.length, a.stays], [b.length, b.stays]),
  clipped: (a, b) => !same(a.clip, b.clip),
  heard: (a, b) => !same(a.sound, b.sound),
  styled: (a, b) => !same(a.style, b.style),
  framed: (a, b) => !same([a.subject, a.views], [b.subject, b.views]),
} satisfies Record<string, (a: Slide, b: Slide) => boolean>;

/** What can happen to songs that are there before and after. */
const SONG_CHANGES = {
  grid: ["gridEdits"],
  markers: ["markers"],
  sections: ["sections"],
  "song-rearranged": ["joins", "refusedJoins", "speed"],
  "song-trimmed": ["trimStartSeconds", "trimEndSeconds", "entry", "fadeInBars", "fadeOutBars", "level"],
} satisfies Record<string, readonly (keyof ShowSong)[]>;

/** What can happen to the show as a whole: these parts of the document differ. */
const SHOW_CHANGES = {
  event: ["event", "date", "client"],
  poster: ["posterSlideId"],
  clocks: ["clockOffsets"],
  passages: ["passages"],
  voices: ["voices"],
  lead: ["lead"],
  pace: ["pace"],
  refitted: ["settledLocks"],
  style: ["style"],
  transitions: ["transitionLanding"],
  seed: ["seed"],
  format: ["frameRate", "size"],
  outputs: ["outputs"],
  "client-page": ["clientOffer"],
} satisfies Record<string, readonly (keyof ShowDocument)[]>;

/** Slides that something happened to: how many, and the name of a single one. */
export interface ChangedSlides {
  readonly count: number;
  readonly fileName: string | null;
}

/** Something that happened between two revisions of a show; change-sentences.ts has the words. */
export type DocumentChange =
  | { readonly kind: "came" | "gone" | keyof typeof SLIDE_CHANGES; readonly slides: ChangedSlides }
  | { readonly kind: "songs"; readonly fileNames: readonly string[] }
  | { readonly kind: "title"; readonly title: string }
  | { readonly kind: "order-lock" | "moves"; readonly isOn: boolean }
  | { readonly kind: "order" | "mix" | keyof typeof SONG_CHANGES | keyof typeof SHOW_CHANGES };

/**
 * What happened between two revisions of a show, the weightiest first. Empty where the documents
 * are equal. O(slides).
 */
export function describeChange(before: ShowDocument, after: ShowDocument): DocumentChange[] {
  const old = new Map(before.slides.map((slide) => [slide.id, slide]));
  const now = new Map(after.slides.map((slide) => [slide.id, slide]));
  const changes: DocumentChange[] = [];
  const ofSlides = (kind: "came" | "gone" | keyof typeof SLIDE_CHANGES, slides: readonly Slide[]): void => {
    const fileName = slides.length === 1 ? itemAt(slides, 0).fileName : null;
    if (slides.length > 0) changes.push({ kind, slides: { count: slides.length, fileName } });
  };
  ofSlides(
    "came",
    after.slides.filter(({ id }) => !old.has(id)),
  );
  ofSlides(
    "gone",
    before.slides.filter(({ id }) => !now.has(id)),
  );
  if (!same(before.songs.map(identity), after.songs.map(identity)))
    changes.push({ kind: "songs", fileNames: after.songs.map(({ fileName }) => fileName) });
  if (isOrderChanged(before, after, old, now)) changes.push({ kind: "order" });
  for (const [kind, differs] of entries(SLIDE_CHANGES))
    ofSlides(
      kind,
      after.slides.filter((slide) => {
        const was = old.get(slide.id);
        return was !== undefined && was !== slide && differs(was, slide);
      }),
    );
  if (before.title !== after.title) changes.push({ kind: "title", title: after.title });
  if (before.orderLocked !== after.orderLocked) changes.push({ kind: "order-lock", isOn: after.orderLocked });
  for (const [kind, keys] of entries(SONG_CHANGES)) if (songDiffers(before, after, keys)) changes.push({ kind });
  if (!same(before.mix, after.mix) || songDiffers(before, after, ["decibels", "muted"])) changes.push({ kind: "mix" });
  if (before.standsStill !== after.standsStill) changes.push({ kind: "moves", isOn: !after.standsStill });
  for (const [kind, keys] of entries(SHOW_CHANGES))
    if (keys.some((key) => !same(before[key], after[key]))) changes.push({ kind });
  return changes;
}

/** What happened to one slide between two revisions, the weightiest first. */
export function describeSlideChange(before: ShowDocument, after: ShowDocument, slideId: string): DocumentChange[] {
  const alone = ({ slides }: ShowDocument): Slide[] => slides.filter(({ id }) => id === slideId);
  return describeChange({ ...after, slides: alone(before) }, { ...after, slides: alone(after) });
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const identity = ({ id, sha256 }: ShowSong): string => id + sha256;
const entries = <Key extends string, Value>(table: Readonly<Record<Key, Value>>): [Key, Value][] =>
  Object.entries(table) as [Key, Value][];

/** Whether a song that both have differs in one of these. */
function songDiffers(before: ShowDocument, after: ShowDocument, keys: readonly (keyof ShowSong)[]): boolean {
  return after.songs.some((song) => {
    const was = before.songs.find((other) => identity(other) === identity(song));
    return was !== undefined && was !== song && keys.some((key) => !same(was[key], song[key]));
  });
}

/** Whether the slides that both have stand in another order. */
function isOrderChanged(
  before: ShowDocument,
  after: ShowDocument,
  old: ReadonlyMap<string, Slide>,
  now: ReadonlyMap<string, Slide>,
): boolean {
  const was = before.slides.filter((slide) => now.has(slide.id));
  const is = after.slides.filter((slide) => old.has(slide.id));
  return was.some((slide, index) => slide.id !== is[index]?.id);
}
