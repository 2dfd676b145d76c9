import { placeInFilm } from "@humming-tide/core/film";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import {
  addTake,
  addVoice,
  changeVoice,
  freeVoiceId,
  type LevelPoint,
  type ShowDocument,
} from "@humming-tide/core/show";
import { decibelsAt } from "@humming-tide/core/sound";
import { frameStart } from "@humming-tide/core/time";
import { api } from "../../../api.ts";
import { edit } from "../../../store/edit.ts";
import { openShow } from "../../../store/open-show.ts";
import { soundActions } from "../../../store/sound-slice.ts";
import { store } from "../../../store/store.ts";
import { viewActions } from "../../../store/view-slice.ts";
import { originOf, voicePiece } from "./voice-piece.ts";

/** The music under a voice can be drawn down to this. */
export const LOWEST_SHAPED_DECIBELS = -30;

/**
 * A show in which a voice begins at another moment of the film; it stays with the slide that is
 * seen there.
 */
export function withVoiceAt(show: ShowDocument, voiceId: string, filmSeconds: number): ShowDocument {
  const { plan } = store.getState().view;
  if (!plan) return show;
  return changeVoice(show, voiceId, { place: placeInFilm(plan, Math.max(0, filmSeconds)) });
}

export const moveVoice = (voiceId: string, filmSeconds: number, tag: string | null = null): void =>
  edit((show) => withVoiceAt(show, voiceId, filmSeconds), tag);

/** Moves a voice by so much from where it was put last, whether the film follows already or not. */
export function moveVoiceBy(voiceId: string, seconds: number): void {
  edit((show) => {
    const place = show.voices.find(({ id }) => id === voiceId)?.place;
    const { plan } = store.getState().view;
    if (!place || !plan) return show;
    const slot = plan.slots.find(({ slideId, round }) => slideId === place.slideId && round === 0);
    const start = slot ? frameStart(slot.startFrame, plan.rate) : 0;
    return withVoiceAt(show, voiceId, start + place.seconds + seconds);
  }, `voice ${voiceId}`);
}

/**
 * Takes a recording into the show: as a new voice at a moment of the film, or as another take of
 * one that is there.
 */
export async function bringVoice(file: File, filmSeconds: number, takeOfVoice: string | null): Promise<boolean> {
  try {
    const showId = store.getState().show.id;
    const facts = await api.sendVoice(file);
    const { sha256, fileName } = facts;
    const { plan } = store.getState().view;
    const { document, id: openId } = store.getState().show;
    // Meanwhile another show may have been opened: it is not for that one.
    if (!document || openId !== showId) return false;
    const take = { sha256, fileName };
    if (takeOfVoice !== null) edit((show) => addTake(show, takeOfVoice, take));
    else {
      const id = freeVoiceId(document);
      edit((show) =>
        addVoice(show, take, plan ? placeInFilm(plan, filmSeconds) : { slideId: null, seconds: filmSeconds }),
      );
      store.dispatch(soundActions.voiceChosen(id));
    }
    if (facts.kind === "voice" && facts.remark)
      store.dispatch(viewActions.toastShown(`“${fileName}”: ${facts.remark}`));
    return true;
  } catch (error) {
    store.dispatch(viewActions.toastShown((error as Error).message));
    return false;
  }
}

/** Points of the rule's curve under a voice, to be drawn on from there. */
export function shapeByHand(voiceId: string): void {
  const { plan } = store.getState().view;
  const piece = plan && voicePiece(plan, voiceId);
  if (!plan || !piece) return;
  const [first, last] = [itemAt(piece.time, 0), lastOf(piece.time)];
  const origin = originOf(piece);
  const { attackSeconds, holdSeconds, releaseSeconds } = openShow().mix.ducking;
  const [from, to] = [first.filmSeconds - attackSeconds - 0.1, last.filmSeconds + holdSeconds + releaseSeconds + 0.1];
  const points = plan.ducking
    .filter(({ seconds }) => seconds > from && seconds < to && seconds - origin >= 0)
    .map(({ seconds, decibels }) => ({ seconds: seconds - origin, decibels: Math.round(2 * decibels) / 2 }));
  const musicLevel =
    points.length > 0
      ? points
      : [first, last].map(({ filmSeconds, soundSeconds }) => ({
          seconds: soundSeconds,
          decibels: decibelsAt(plan.ducking, filmSeconds),
        }));
  edit((show) => changeVoice(show, voiceId, { musicLevel }));
}

const CLOSEST_SECONDS = 0.05;

/**
 * A show in which a point of the music's level under a voice lies elsewhere, between its
 * neighbours.
 */
export function withLevelPoint(show: ShowDocument, voiceId: string, index: number, to: LevelPoint): ShowDocument {
  const voice = show.voices.find(({ id }) => id === voiceId);
  if (!voice?.musicLevel[index]) return show;
  const [before, after] = [voice.musicLevel[index - 1], voice.musicLevel[index + 1]];
  const seconds = Math.max(
    before ? before.seconds + CLOSEST_SECONDS : 0,
    Math.min(after ? after.seconds - CLOSEST_SECONDS : Number.POSITIVE_INFINITY, to.seconds),
  );
  const decibels = Math.max(LOWEST_SHAPED_DECIBELS, Math.min(0, to.decibels));
  return changeVoice(show, voiceId, { musicLevel: voice.musicLevel.with(index, { seconds, decibels }) });
}

/** Moves a point by so much. */
export function moveLevelPoint(voiceId: string, index: number, by: LevelPoint): void {
  edit((show) => {
    const point = show.voices.find(({ id }) => id === voiceId)?.musicLevel[index];
    if (!point) return show;
    return withLevelPoint(show, voiceId, index, {
      seconds: point.seconds + by.seconds,
      decibels: point.decibels + by.decibels,
    });
  }, `music level ${voiceId} ${index}`);
}

export function removeLevelPoint(voiceId: string, index: number): void {
  edit((show) => {
    const voice = show.voices.find(({ id }) => id === voiceId);
    return voice ? changeVoice(show, voiceId, { musicLevel: voice.musicLevel.toSpliced(index, 1) }) : show;
  });
}
