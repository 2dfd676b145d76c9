import { songPlaceAt } from "../arrange/index.ts";
import { isMoving } from "../picture/index.ts";
import { itemAt, present } from "../presence/index.ts";
import {
  changeMarker,
  changeSlides,
  changeSong,
  changeStyle,
  moveSlides,
  type ShowDocument,
  slideName,
  withMarkers,
} from "../show/index.ts";
import { frameStart, type Seconds } from "../time/index.ts";
import type { FilmPlan, FilmSlot } from "./plan-film.ts";

/**
 * Something that can be done about a slot that is much longer or shorter than a picture should
 * stand.
 */
export interface GapOffer {
  readonly kind: "slow-move" | "two-pictures" | "divide" | "skip-marker" | "caption" | "leave-out";
  readonly text: string;
}

/**
 * Common practice: beyond six seconds a still wants to move, or company; a second is the least that
 * reads as a picture, within 0.6 s it is hardly seen.
 */
const LONG_SECONDS = 6;
const READ_SECONDS = 1;
const SHORT_SECONDS = 0.6;
/** Much more or less than was wished. */
const OFF_FACTOR = 1.5;
const SAME_PLACE_SECONDS = 0.03;

/**
 * What can be done about a slot that markers or locks make too long or too short, the gentlest
 * first; empty for one that is neither. A long one: let a picture that stands still move, or show
 * another one in it that the film has no room for. Or put a marker on the bar nearest to its
 * middle. A short one: the marker that begins it is kept as a note, its caption goes to the picture
 * before, or the picture is left out.
 */
export function gapOffers(show: ShowDocument, plan: FilmPlan, slot: FilmSlot): GapOffer[] {
  const seconds = secondsOf(plan, slot);
  const { hero, length } = itemAt(show.slides, slot.slideIndex);
  // Paces that change on markers wish what there is to the next: there the film's mean tells what
  // is much. Heroes and lengths of their own are meant.
  const usual = hero || length ? slot.wishedSeconds : Math.min(slot.wishedSeconds, meanSeconds(plan));
  if (seconds > LONG_SECONDS && seconds > OFF_FACTOR * usual) return longOffers(show, plan, slot);
  const isHurried = seconds < READ_SECONDS && seconds * OFF_FACTOR < slot.wishedSeconds;
  if (seconds < SHORT_SECONDS || isHurried) return shortOffers(show, plan, slot);
  return [];
}

function longOffers(show: ShowDocument, plan: FilmPlan, slot: FilmSlot): GapOffer[] {
  const offers: GapOffer[] = [];
  if (slot.picture !== null && !isMoving(slot.move) && !show.standsStill)
    offers.push({ kind: "slow-move", text: "A slow move towards its subject, which arrives on the music’s accent" });
  const waiting = nearestWaiting(show, plan, slot);
  const middle = middleBar(plan, slot);
  if (waiting !== null)
    offers.push({
      kind: "two-pictures",
      text: `Two pictures here: “${slideName(itemAt(show.slides, waiting))}” comes behind this one`,
    });
  if (middle !== null) offers.push({ kind: "divide", text: `Add marker at ${middle.toFixed(1)} s, on a bar` });
  return offers;
}

function shortOffers(show: ShowDocument, plan: FilmPlan, slot: FilmSlot): GapOffer[] {
  const offers: GapOffer[] = [];
  const marker = markerAt(plan, slot);
  if (marker) offers.push({ kind: "skip-marker", text: "Skip the marker that begins it: it stays as a note" });
  const words = wordsOf(show, plan, slot);
  if (words)
    offers.push({ kind: "caption", text: `Leave it out and keep “${words}” as a caption of the picture before` });
  if (plan.slots.length > 1)
    offers.push({ kind: "leave-out", text: `Leave “${slideName(itemAt(show.slides, slot.slideIndex))}” out` });
  return offers;
}

/** The show with an offer taken; unchanged where there is nothing to do it with any more. */
export function takeGapOffer(show: ShowDocument, plan: FilmPlan, slot: FilmSlot, kind: GapOffer["kind"]): ShowDocument {
  if (kind === "slow-move") {
    const move = { kind: "in", strength: 0.5, withMusic: true } as const;
    return changeStyle(show, { kind: "slides", slideIds: new Set([slot.slideId]) }, { move });
  }
  if (kind === "caption") {
    const words = wordsOf(show, plan, slot);
    const before = plan.slots[slot.index - 1];
    if (!words || !before) return show;
    const left = changeSlides(show, new Set([slot.slideId]), { rating: "out" });
    return changeSlides(left, new Set([before.slideId]), { caption: words });
  }
  if (kind === "leave-out") return changeSlides(show, new Set([slot.slideId]), { rating: "out" });
  if (kind === "skip-marker") {
    const marker = markerAt(plan, slot);
    const song = show.songs.find(({ id }) => id === marker?.songId);
    return marker && song
      ? changeSong(show, song.id, { markers: changeMarker(song.markers, marker.id, { kind: "note" }) })
      : show;
  }
  const divided = withMarkerInMiddle(show, plan, slot);
  if (kind === "divide") return divided;
  const waiting = nearestWaiting(show, plan, slot);
  if (waiting === null) return show;
  const ids = new Set([itemAt(show.slides, waiting).id]);
  const { passageId } = itemAt(show.slides, slot.slideIndex);
  const behind = show.slides[slot.slideIndex + 1];
  const place = { passageId, beforeId: behind?.passageId === passageId ? behind.id : null };
  return moveSlides(changeSlides(divided, ids, { rating: "keep", stays: true }), ids, place);
}

/**
 * Where the pace takes only markers or accents there must be one more for one more picture;
 * elsewhere it does no harm.
 */
function withMarkerInMiddle(show: ShowDocument, plan: FilmPlan, slot: FilmSlot): ShowDocument {
  const middle = middleBar(plan, slot);
  const place = middle === null ? null : songPlaceAt(plan.music, middle);
  const song = show.songs.find(({ id }) => id === place?.songId);
  if (!place || !song) return show;
  const marker = { seconds: place.seconds, name: "", kind: "cut", origin: "placed" } as const;
  return changeSong(show, song.id, { markers: withMarkers(song.markers, [marker]) });
}

/**
 * A caption that the picture before could have instead of its own; null where there is none, or
 * that one has words already.
 */
function wordsOf(show: ShowDocument, plan: FilmPlan, slot: FilmSlot): string | null {
  const before = plan.slots[slot.index - 1];
  const words = itemAt(show.slides, slot.slideIndex).caption;
  return before && words !== "" && itemAt(show.slides, before.slideIndex).caption === "" ? words : null;
}

const secondsOf = (plan: FilmPlan, slot: FilmSlot): number => frameStart(slot.endFrame - slot.startFrame, plan.rate);

const meanSeconds = (plan: FilmPlan): Seconds => frameStart(plan.totalFrames, plan.rate) / plan.slots.length;

/**
 * Index of the slide nearest in the show's order that found no room, or was left out; those without
 * room first. Null where all are shown.
 */
function nearestWaiting(show: ShowDocument, plan: FilmPlan, slot: FilmSlot): number | null {
  const out = show.slides.flatMap(({ rating }, index) => (rating === "out" ? [index] : []));
  for (const indices of [plan.leftOut, out]) {
    if (indices.length === 0) continue;
    return indices.reduce((best, index) =>
      Math.abs(index - slot.slideIndex) < Math.abs(best - slot.slideIndex) ? index : best,
    );
  }
  return null;
}

/**
 * The bar start nearest to the middle of a slot, in film time; null where none lies inside, well
 * away from its ends.
 */
function middleBar(plan: FilmPlan, slot: FilmSlot): number | null {
  const from = slot.landing?.seconds ?? 0;
  const to = from + secondsOf(plan, slot);
  const inside = plan.music.grid.beats.filter(
    ({ seconds, position }) => position === 1 && seconds > from + 1 && seconds < to - 1,
  );
  if (inside.length === 0) return null;
  const middle = (from + to) / 2;
  return inside.reduce((best, beat) =>
    Math.abs(beat.seconds - middle) < Math.abs(best.seconds - middle) ? beat : best,
  ).seconds;
}

const markerAt = (plan: FilmPlan, slot: FilmSlot): FilmPlan["music"]["markers"][number] | undefined =>
  slot.landing?.kind === "marker"
    ? plan.music.markers.find(
        ({ seconds, kind }) =>
          kind !== "note" && Math.abs(seconds - present(slot.landing).seconds) <= SAME_PLACE_SECONDS,
      )
    : undefined;
