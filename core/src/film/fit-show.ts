import { type ArrangedMusic, arrangeSongs, filmSecondsOf, sectionsOf } from "../arrange/index.ts";
import {
  costOfFit,
  type FitRequest,
  type FitResult,
  fitError,
  fitSlides,
  type SettledLock,
  type SlideForFit,
} from "../fit/index.ts";
import { correctedGrid } from "../grid/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import { commonSeconds, haveBetterLikes, type PictureInOrder } from "../photo-analysis/index.ts";
import { itemAt } from "../presence/index.ts";
import { changeSong, type ShowDocument, type Slide, type SongPlace } from "../show/index.ts";
import {
  type FrameRate,
  type Frames,
  frameAt,
  frameStart,
  framesToCover,
  nearestFrame,
  type Seconds,
} from "../time/index.ts";
import { clipMaterial } from "./clip-material.ts";
import type { FitFacts } from "./film-facts.ts";
import { loudnessCurve } from "./loudness-curve.ts";
import { readingSeconds } from "./reading-time.ts";

/** A slide that may be in the film, with its place among all slides of the show. */
interface UsedSlide {
  readonly slide: Slide & { readonly rating: "keep" | "maybe" };
  readonly index: number;
}

/** A show's slides laid on its music, before there are pictures. */
export interface ShowFit {
  readonly request: FitRequest;
  readonly result: FitResult;
  readonly used: readonly UsedSlide[];
  /** All songs as one music in film time. */
  readonly music: ArrangedMusic;
  /** At how many bar lines songs go on elsewhere. */
  readonly joins: number;
  readonly totalFrames: Frames;
}

/** Places of the music that are tried as the beginning of a film whose length leads. */
const MOST_BEGINNINGS = 8;
/** What it costs to end the music before its own ending, by where it fades (docs/fit.md). */
const END_COST = { section: 0.3, phrase: 0.6, bar: 1 };

/**
 * Lays a show's slides on its music. Throws `no-song`, or `no-slides` where there is no film yet.
 * Cost: see solveOrder; eight times where the length leads.
 */
export function fitShow(show: ShowDocument, facts: FitFacts): ShowFit {
  const music = arrangeSongs(show.songs, facts.analysis);
  if (music.pieces.length === 0) throw fitError("no-song");
  const used = slidesOfTheFilm(show);
  if (show.lead.kind !== "length") return fitOnto(show, music, used, facts);
  const fits = beginnings(show, music, show.lead.seconds, facts.analysis).map((begun) =>
    fitOnto(begun, arrangeSongs(begun.songs, facts.analysis), used, facts),
  );
  return fits.reduce((best, fit) => (costOfFilm(fit) < costOfFilm(best) ? fit : best));
}

/**
 * What a film costs altogether: its laying, its choice of slides and locks, and every join in its
 * songs (docs/fit.md).
 */
export const costOfFilm = ({ result, request, joins }: Pick<ShowFit, "result" | "request" | "joins">): number =>
  costOfFit(request, result) + JOIN_COST * joins;
/** A join between bars may be heard. */
const JOIN_COST = 2;

function fitOnto(show: ShowDocument, music: ArrangedMusic, used: readonly UsedSlide[], facts: FitFacts): ShowFit {
  const rate = show.frameRate;
  const place = (at: SongPlace | null): number | null => at && filmSecondsOf(music, at);
  const better = haveBetterLikes(used.map(({ slide }) => pictureInOrder(show, slide, facts)));
  const passageIndex = new Map(show.passages.map((passage, index) => [passage.id, index]));
  const request: FitRequest = {
    slides: used.map(({ slide, index }, i): SlideForFit => {
      const { id, rating, stays, hero, length } = slide;
      return {
        id,
        place: index + 1,
        rating,
        hasBetterLike: itemAt(better, i),
        stays,
        hero,
        passage: passageIndex.get(slide.passageId) ?? 0,
        wishedSeconds: length?.seconds ?? null,
        lengthLockSeconds: length?.locked ? length.seconds : null,
        minimumSeconds: readingSeconds(show, slide, music.grid.beats),
        maximumSeconds: null,
        landingLockSeconds: place(slide.landingLock),
        landingLockExact: slide.landingLock?.exact ?? false,
        ...clipOf(slide, facts),
      };
    }),
    passages: show.passages.map(({ id, name, pace, startLock }) => ({
      id,
      name,
      pace: pace ?? show.pace,
      startLockSeconds: place(startLock),
    })),
    music: {
      beats: music.grid.beats,
      beatsPerBar: music.grid.beatsPerBar,
      phrases: music.phrases,
      sections: music.sections,
      accents: music.accents,
      markers: music.markers,
      loudnessAt: loudnessCurve(music, facts.analysis),
    },
    ends: filmEnds(show, music, rate),
    slidesLead: show.lead.kind === "slides",
    keepsPlan: true,
    settledLocks: settledLocks(show, place),
  };
  const result = fitSlides(request);
  const joins = show.songs.reduce((sum, song) => sum + song.joins.length, 0);
  return { request, result, used, music, joins, totalFrames: nearestFrame(result.endSeconds, rate) };
}

/**
 * The locks of the plan, in seconds of the film; those whose place the songs have no more are gone.
 */
function settledLocks(show: ShowDocument, place: (at: SongPlace | null) => number | null): SettledLock[] {
  return show.settledLocks.flatMap((lock): SettledLock[] => {
    const { kind, id } = lock;
    if (lock.kind === "length") return [{ kind, id, seconds: lock.seconds, exact: false }];
    const seconds = place(lock.place);
    return seconds === null ? [] : [{ kind, id, seconds, exact: lock.kind === "landing" && lock.place.exact }];
  });
}

/** What near-identical pictures are told by. Clips and cards are like nothing else. */
function pictureInOrder({ clockOffsets }: ShowDocument, { sha256 }: Slide, facts: FitFacts): PictureInOrder {
  const seen = sha256 === null ? undefined : facts.seen(sha256);
  if (!seen || seen.durationSeconds !== undefined)
    return { fingerprint: null, blur: null, headBlur: null, openEyes: null, seconds: null };
  const { fingerprint = null, blur = null, capturedAt = null, camera = "" } = seen;
  const { headBlur = null, openEyes = null } = seen.subject ?? {};
  return { fingerprint, blur, headBlur, openEyes, seconds: commonSeconds({ capturedAt, camera }, clockOffsets) };
}

/** How much of the film a clip can fill, and around its moment. */
function clipOf({ sha256, clip }: Slide, facts: FitFacts): Pick<SlideForFit, "materialSeconds" | "moment"> {
  // Where nobody measured the clip, what a person said of it still holds.
  const whole = (sha256 === null ? undefined : facts.seen(sha256)?.durationSeconds) ?? clip?.outSeconds ?? undefined;
  if (whole === undefined) return { materialSeconds: null, moment: null };
  const { inSeconds, outSeconds, momentSeconds: at, speed } = clipMaterial(clip, whole);
  const moment =
    at === null ? null : { beforeSeconds: (at - inSeconds) / speed, afterSeconds: (outSeconds - at) / speed };
  return { materialSeconds: (outSeconds - inSeconds) / speed, moment };
}

/**
 * Where the film may end: with its music, on a bar where slides lead, or exactly where the length
 * says.
 */
function filmEnds(show: ShowDocument, music: ArrangedMusic, rate: FrameRate): FitRequest["ends"] {
  const whole = musicFrames(music, rate);
  const wholeSeconds = frameStart(whole, rate);
  if (show.lead.kind === "song") return [{ seconds: wholeSeconds, cost: 0 }];
  if (show.lead.kind === "length") {
    const wished = Math.max(1, nearestFrame(show.lead.seconds, rate));
    return [{ seconds: frameStart(Math.min(wished, whole), rate), cost: 0 }];
  }
  const isNear = (list: readonly number[], at: number): boolean => list.some((other) => Math.abs(other - at) < 0.05);
  const sections = music.sections.map(({ startSeconds }) => startSeconds);
  const bars = music.grid.beats.filter(({ position }) => position === 1).map((beat) => beat.seconds);
  const onBars = bars
    .filter((at) => at > 1 && at < wholeSeconds - 1)
    .map((at) => ({
      seconds: frameStart(nearestFrame(at, rate), rate),
      cost: isNear(sections, at) ? END_COST.section : isNear(music.phrases, at) ? END_COST.phrase : END_COST.bar,
    }));
  return [...onBars, { seconds: wholeSeconds, cost: 0 }];
}

/**
 * The film ends with the music: on the first whole frame after its last sound, never later than its
 * recording.
 */
function musicFrames({ lengthSeconds, materialSeconds }: ArrangedMusic, rate: FrameRate): Frames {
  const atMost = Math.max(1, frameAt(materialSeconds, rate));
  return Math.min(framesToCover(lengthSeconds, rate), atMost);
}

/**
 * The show begun at other places of its first song, for a film that is shorter than its music: as
 * it is, on section starts, and on the bar from which the length reaches the song's own ending.
 */
function beginnings(
  show: ShowDocument,
  music: ArrangedMusic,
  wishedSeconds: Seconds,
  analysis: (sha256: string) => MusicAnalysis | undefined,
): ShowDocument[] {
  const song = itemAt(show.songs, 0);
  const heard = analysis(song.sha256);
  const spare = music.lengthSeconds - wishedSeconds;
  if (!heard || spare < 1 || song.joins.length > 0) return [show];
  const starts = sectionsOf(song, heard).map((section) => section.startSeconds);
  const bars = correctedGrid(heard, song.gridEdits).beats.filter((beat) => beat.position === 1);
  const toTheEnd = bars.findLast((bar) => bar.seconds - song.trimStartSeconds <= spare)?.seconds;
  const places = [...(toTheEnd === undefined ? [] : [toTheEnd]), ...starts].filter(
    (at) => at > song.trimStartSeconds + 0.5 && at - song.trimStartSeconds <= spare,
  );
  const tried = [...new Set(places)].slice(0, MOST_BEGINNINGS - 1);
  return [show, ...tried.map((trimStartSeconds) => changeSong(show, song.id, { trimStartSeconds }))];
}

function slidesOfTheFilm(show: ShowDocument): UsedSlide[] {
  const used: UsedSlide[] = [];
  for (const [index, slide] of show.slides.entries()) {
    if (slide.rating !== "out") used.push({ slide: { ...slide, rating: slide.rating }, index });
  }
  if (used.length === 0 && show.slides.length > 0) {
    throw fitError("all-left-out", { slides: show.slides.length });
  }
  return used;
}
