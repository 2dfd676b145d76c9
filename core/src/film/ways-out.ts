import { type Rearrangement, rearrange, songBars } from "../arrange/index.ts";
import { assertNever, HummingTideError } from "../errors/index.ts";
import type { LockName } from "../fit/index.ts";
import { correctedGrid, type Grid } from "../grid/index.ts";
import { counted } from "../language/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import {
  changePassage,
  changeSlides,
  changeSong,
  type Lead,
  lockLanding,
  lockPassageStart,
  type ShowDocument,
  type SongJoin,
} from "../show/index.ts";
import { clockText, type Seconds } from "../time/index.ts";
import type { Pace } from "../values/index.ts";
import type { FitFacts } from "./film-facts.ts";
import { costOfFilm, fitShow, type ShowFit } from "./fit-show.ts";

/**
 * A change of the show that makes slides and music agree better; plain data, so that it can be
 * applied as it stands.
 */
export type FitChange =
  | { readonly kind: "pace"; readonly passageId: string | null; readonly pace: Pace }
  | { readonly kind: "leaveOut"; readonly slideIds: readonly string[] }
  | { readonly kind: "lead"; readonly lead: Lead }
  | { readonly kind: "unlock"; readonly lock: LockName }
  /** The song goes on elsewhere at these bar lines. */
  | { readonly kind: "song"; readonly songId: string; readonly joins: readonly SongJoin[] };

export interface WayOut {
  readonly text: string;
  readonly change: FitChange;
  /** What the film would cost altogether, by an exact solve of its own; less than it costs now. */
  readonly cost: number;
  readonly leftOut: number;
  readonly repeats: number;
}

const MOST_WAYS = 5;
/** More paces of the whole show would crowd out ways of another kind. */
const MOST_PACES = 2;

/** The edit that a way out is. */
export function applyFitChange(show: ShowDocument, change: FitChange): ShowDocument {
  switch (change.kind) {
    case "pace":
      return change.passageId === null
        ? { ...show, pace: change.pace }
        : changePassage(show, change.passageId, { pace: change.pace });
    case "leaveOut":
      return changeSlides(show, new Set(change.slideIds), { rating: "out" });
    case "lead":
      return { ...show, lead: change.lead };
    case "unlock":
      return unlocked(show, change.lock);
    case "song":
      return changeSong(show, change.songId, { joins: [...change.joins], speed: 1 });
    default:
      return assertNever(change);
  }
}

function unlocked(show: ShowDocument, { kind, id }: LockName): ShowDocument {
  if (kind === "landing") return lockLanding(show, id, null);
  if (kind === "passage") return lockPassageStart(show, id, null);
  if (kind === "stays") return changeSlides(show, new Set([id]), { stays: false });
  const length = show.slides.find((slide) => slide.id === id)?.length;
  return length ? changeSlides(show, new Set([id]), { length: { ...length, locked: false } }) : show;
}

/**
 * What would make slides and music agree, cheapest first, each solved for real: another pace of the
 * show or of one passage, leaving out for good what finds no room, letting the slides lead. A song
 * may run longer or shorter by whole bars. Of locks that cannot hold together one may be freed.
 * Empty where nothing was left out, repeated or unmet. Cost: a dozen solves.
 */
export function waysOut(show: ShowDocument, fit: ShowFit, facts: FitFacts): WayOut[] {
  const search = searchWaysOut(show, fit, facts);
  for (;;) {
    const step = search.next();
    if (step.done) return step.value;
  }
}

/** The same in steps of one solve each, for a thread that has to hear what is asked meanwhile. */
export function* searchWaysOut(show: ShowDocument, fit: ShowFit, facts: FitFacts): Generator<undefined, WayOut[]> {
  const { result } = fit;
  if (result.leftOut.length + result.repeats + result.unmetLocks.length === 0) return [];
  const now = costOfFilm(fit);
  const ways: WayOut[] = [];
  for (const { text, change } of [...proposals(show, fit), ...songProposals(show, fit, facts)]) {
    const edited = fitShow(applyFitChange(show, change), facts);
    yield;
    const cost = costOfFilm(edited);
    if (cost >= now - 1e-9) continue;
    const { leftOut, repeats } = edited.result;
    const rest = leftOut.length + repeats;
    const length = change.kind === "lead" ? `, ${clockText(edited.result.endSeconds)} long` : "";
    const after = rest === 0 ? ": every picture once" : `: ${rest} left over or repeated`;
    ways.push({
      text: `${text}${length}${change.kind === "leaveOut" ? "" : after}`,
      change,
      cost,
      leftOut: leftOut.length,
      repeats,
    });
  }
  const isShowPace = ({ change }: WayOut): boolean => change.kind === "pace" && change.passageId === null;
  const sorted = ways.sort((a, b) => a.cost - b.cost);
  const otherPaces = new Set(sorted.filter(isShowPace).slice(MOST_PACES));
  return sorted.filter((way) => !otherPaces.has(way)).slice(0, MOST_WAYS);
}

function proposals(show: ShowDocument, { result, used, music }: ShowFit): { text: string; change: FitChange }[] {
  const { beatsPerBar } = music.grid;
  // Beats that are whole bars are offered as bars: the same film twice would crowd out another.
  const beats = [1, 2, 4, 8].filter((count) => count % beatsPerBar !== 0);
  const paces: Pace[] = [
    { kind: "auto" },
    ...beats.map((count): Pace => ({ kind: "beats", count })),
    ...[1, 2, 4].map((count): Pace => ({ kind: "bars", count })),
  ];
  const proposed: { text: string; change: FitChange }[] = [];
  const isSame = (a: Pace, b: Pace): boolean => JSON.stringify(a) === JSON.stringify(b);
  if (result.leftOut.length + result.repeats > 0) {
    for (const pace of paces)
      if (!isSame(pace, show.pace))
        proposed.push({ text: paceText(pace), change: { kind: "pace", passageId: null, pace } });
    for (const [index, passage] of show.passages.entries()) {
      if (passage.pace === null || passage.pace.kind === "auto") continue;
      const name = passage.name ? `“${passage.name}”` : `passage ${index + 1}`;
      proposed.push({
        text: `${name} no longer ${paceText(passage.pace).toLowerCase()} but best fit`,
        change: { kind: "pace", passageId: passage.id, pace: { kind: "auto" } },
      });
      const beside = besidePace(passage.pace, result.leftOut.length > 0, beatsPerBar);
      if (beside)
        proposed.push({
          text: `Pace of ${name} from ${pictureText(passage.pace)} to ${pictureText(beside)}`,
          change: { kind: "pace", passageId: passage.id, pace: beside },
        });
    }
    if (show.lead.kind === "song")
      proposed.push({ text: "Let the slides lead", change: { kind: "lead", lead: { kind: "slides" } } });
  }
  if (result.leftOut.length > 0) {
    const slides = result.leftOut.map((index) => itemAt(used, index).slide);
    const maybe = slides.filter((slide) => slide.rating === "maybe");
    const gone = maybe.length > 0 ? maybe : slides;
    proposed.push({
      text: `Leave out ${counted(gone.length, "picture")}${maybe.length > 0 ? " rated maybe" : " that find no room"}`,
      change: { kind: "leaveOut", slideIds: gone.map((slide) => slide.id) },
    });
  }
  for (const lock of result.conflict)
    proposed.push({ text: `Free ${lockNoun(show, lock)}`, change: { kind: "unlock", lock } });
  return proposed;
}

/** So much longer or shorter a song is made at most: beyond it, it would not be the same song. */
const SONG_REACH = { least: 0.5, most: 2 };

/**
 * One of the songs played longer or shorter by whole bars, where it is not heard. There is then as
 * much music as the slides ask for.
 */
function songProposals(show: ShowDocument, fit: ShowFit, facts: FitFacts): { text: string; change: FitChange }[] {
  const { result, music } = fit;
  if (show.lead.kind === "length" || result.leftOut.length + result.repeats === 0) return [];
  // Where slides ask for no time, each is given what those that are shown have.
  const slots = result.slots.length;
  const wanted = result.askedSeconds ?? (result.endSeconds * (slots + result.leftOut.length - result.repeats)) / slots;
  const proposed: { text: string; change: FitChange }[] = [];
  for (const [index, song] of show.songs.entries()) {
    const heard = facts.analysis(song.sha256);
    const placed = music.songs.find(({ songId }) => songId === song.id);
    const isWhole = song.trimStartSeconds === 0 && song.trimEndSeconds === null;
    if (!heard?.texture || !placed || !isWhole) continue;
    const length = placed.endSeconds - placed.startSeconds;
    const seconds = length + wanted - music.lengthSeconds;
    if (seconds < length * SONG_REACH.least || seconds > length * SONG_REACH.most) continue;
    const grid = correctedGrid(heard, song.gridEdits);
    const found = rearranged(heard, grid, seconds, song.refusedJoins);
    if (!found || found.joins.length === 0) continue;
    const bars = songBars(heard, grid).starts;
    const barSeconds = (lastOf(bars) - itemAt(bars, 0)) / (bars.length - 1);
    const count = Math.round((found.lengthSeconds - length) / barSeconds);
    if (count === 0) continue;
    const which = show.songs.length === 1 ? "the song" : `song ${index + 1}`;
    proposed.push({
      text: `Let ${which} run ${counted(Math.abs(count), "bar")} ${count > 0 ? "longer" : "shorter"}`,
      change: {
        kind: "song",
        songId: song.id,
        joins: found.joins.map(({ fromSeconds, toSeconds }) => ({ fromSeconds, toSeconds })),
      },
    });
  }
  return proposed;
}

/** Null for a song that cannot be rearranged: too short, or without bars. */
function rearranged(
  heard: MusicAnalysis,
  grid: Grid,
  seconds: Seconds,
  refused: readonly SongJoin[],
): Rearrangement | null {
  try {
    return rearrange(songBars(heard, grid), { seconds, finish: "bars", refused });
  } catch (error) {
    if (error instanceof HummingTideError && error.code === "not-rearrangeable") return null;
    throw error;
  }
}

function lockNoun(show: ShowDocument, { kind, id }: LockName): string {
  if (kind === "passage") {
    const index = show.passages.findIndex((passage) => passage.id === id);
    return `the start of ${show.passages[index]?.name || `passage ${index + 1}`}`;
  }
  const slide = `slide ${show.slides.findIndex((slide) => slide.id === id) + 1}`;
  return kind === "stays" ? `“Always keep” of ${slide}` : `the ${kind} of ${slide}`;
}

/** The next faster or slower of a counted pace: half or twice as much. Null where there is none. */
function besidePace(pace: Pace, faster: boolean, beatsPerBar: number): Pace | null {
  if (pace.kind === "seconds")
    return { ...pace, seconds: faster ? Math.max(0.2, pace.seconds / 2) : Math.min(600, pace.seconds * 2) };
  if (pace.kind !== "beats" && pace.kind !== "bars" && pace.kind !== "phrases") return null;
  if (!faster) return pace.count > 500 ? null : { ...pace, count: pace.count * 2 };
  if (pace.count > 1) return { ...pace, count: Math.floor(pace.count / 2) };
  if (pace.kind === "bars" && beatsPerBar > 1) return { kind: "beats", count: Math.ceil(beatsPerBar / 2) };
  return pace.kind === "phrases" ? { kind: "bars", count: 2 } : null;
}

/** What a picture lasts at a counted pace: "a bar", "2 beats". */
function pictureText(pace: Pace): string {
  if (pace.kind === "seconds") return `${pace.seconds} s`;
  if (pace.kind !== "beats" && pace.kind !== "bars" && pace.kind !== "phrases") return paceText(pace).toLowerCase();
  return pace.count === 1 ? `a ${pace.kind.slice(0, -1)}` : `${pace.count} ${pace.kind}`;
}

/** A pace in words. */
export function paceText(pace: Pace): string {
  const every = (count: number, noun: string): string =>
    count === 1 ? `One picture a ${noun}` : `One picture every ${count} ${noun}s`;
  switch (pace.kind) {
    case "auto":
      return pace.fast ? "Best fit, fast" : "Best fit";
    case "music":
      return pace.fast ? "Following the music, fast" : "Following the music";
    case "beats":
      return every(pace.count, "beat");
    case "bars":
      return every(pace.count, "bar");
    case "phrases":
      return every(pace.count, "phrase");
    case "seconds":
      return `${pace.seconds} s each`;
    case "accents":
      return "One picture an accent";
    case "markers":
      return pace.origin === "tapped" ? "One picture a tap" : "One picture a marker";
    default:
      return assertNever(pace);
  }
}
