import type { ShowDocument, ShowSong, SongPlace } from "../document/index.ts";
import { lockPassageStart } from "./passage-edits.ts";
import { lockLanding } from "./song-edits.ts";

/** A lock on a place of a song that is no longer in the film. It holds nothing, and waits. */
export interface OpenLock {
  /**
   * Of a slide's beginning, or of a passage's start; the id is that of the slide or the passage.
   */
  readonly kind: "landing" | "passage";
  readonly id: string;
  readonly place: SongPlace;
  readonly exact: boolean;
}

/**
 * The locks that wait: those of passages, then those of slides, each in the order of the film.
 * O(slides).
 */
export function openLocks(show: ShowDocument): OpenLock[] {
  const playing = new Set(show.songs.map(({ id }) => id));
  const isOpen = (place: SongPlace | null): place is SongPlace => place !== null && !playing.has(place.songId);
  return [
    ...show.passages.flatMap(({ id, startLock }): OpenLock[] =>
      isOpen(startLock) ? [{ kind: "passage", id, place: startLock, exact: false }] : [],
    ),
    ...show.slides.flatMap(({ id, landingLock }): OpenLock[] =>
      isOpen(landingLock) ? [{ kind: "landing", id, place: landingLock, exact: landingLock.exact }] : [],
    ),
  ];
}

/** The song that an open lock names; undefined where it has been forgotten. */
export const formerSongOf = (show: ShowDocument, { place }: OpenLock): ShowSong | undefined =>
  show.formerSongs.find(({ id }) => id === place.songId);

/** Puts an open lock on a place of a song of the film; with null it is free. */
export const placeLock = (show: ShowDocument, lock: OpenLock, place: SongPlace | null): ShowDocument =>
  lock.kind === "passage" ? lockPassageStart(show, lock.id, place) : lockLanding(show, lock.id, place, lock.exact);
