import { itemAt } from "../../presence/index.ts";
import {
  type LandingLock,
  MOST_FORMER_SONGS,
  newShowSong,
  type ShowDocument,
  type ShowSong,
  type SongPlace,
} from "../document/index.ts";

/** Edits of a show's songs: pure; one that changes nothing returns the same document. */

type SongFile = Pick<ShowSong, "sha256" | "fileName">;

/**
 * Takes a song that was brought in: it is the show's song in place of the one before, or one more
 * where there are several. One that is there already changes nothing; null takes all out. A song
 * that goes is kept with all that was decided about it, and is the same again when it comes back.
 * Locks that name places of it wait (openLocks).
 */
export function chooseSong(show: ShowDocument, song: SongFile | null): ShowDocument {
  if (!song) return show.songs.length > 0 ? withSongs(show, []) : show;
  if (show.songs.some((other) => other.sha256 === song.sha256)) return show;
  return show.songs.length > 1 ? addSong(show, song) : withSongs(show, [songFor(show, song)]);
}

/**
 * Adds a song behind the others. One that was in the show before comes back with all that was
 * decided about it.
 */
export const addSong = (show: ShowDocument, song: SongFile): ShowDocument =>
  withSongs(show, [...show.songs, songFor(show, song)]);

/** Takes a song out of the show. It is kept, and so are locks that name places of it. */
export function removeSong(show: ShowDocument, songId: string): ShowDocument {
  const songs = show.songs.filter((song) => song.id !== songId);
  return songs.length === show.songs.length ? show : withSongs(show, songs);
}

/** Moves a song so many places later (or earlier, if negative), as far as there are places. */
export function shiftSong(show: ShowDocument, songId: string, places: number): ShowDocument {
  const from = show.songs.findIndex((song) => song.id === songId);
  const to = Math.max(0, Math.min(show.songs.length - 1, from + places));
  if (from < 0 || to === from) return show;
  const rest = show.songs.toSpliced(from, 1);
  return { ...show, songs: rest.toSpliced(to, 0, itemAt(show.songs, from)) };
}

/** What may be changed about a song: everything but which one it is. */
export type SongChange = Partial<Omit<ShowSong, "id" | "sha256" | "fileName">>;

/** Changes what a person decided about a song. */
export function changeSong(show: ShowDocument, songId: string, change: SongChange): ShowDocument {
  return {
    ...show,
    songs: show.songs.map((song) => (song.id === songId ? { ...song, ...change } : song)),
  };
}

/**
 * Locks the beginning of a slide to the landing nearest to a place of the music; with `exact` to
 * that very place, on a beat or not; with null gives it free.
 */
export function lockLanding(show: ShowDocument, slideId: string, place: SongPlace | null, exact = false): ShowDocument {
  const slide = show.slides.find(({ id }) => id === slideId);
  const landingLock = place && { ...place, exact };
  if (!slide || isSameLock(slide.landingLock, landingLock)) return show;
  return {
    ...show,
    slides: show.slides.map((other) => (other.id === slideId ? { ...other, landingLock } : other)),
  };
}

function isSameLock(a: LandingLock | null, b: LandingLock | null): boolean {
  if (!a || !b) return a === b;
  return a.songId === b.songId && a.seconds === b.seconds && a.turn === b.turn && a.exact === b.exact;
}

/** The show with these songs; those that go are kept. */
function withSongs(show: ShowDocument, songs: ShowSong[]): ShowDocument {
  const ids = new Set(songs.map((song) => song.id));
  const former = [...show.songs, ...show.formerSongs].filter(({ id }) => !ids.has(id));
  return { ...show, songs, formerSongs: former.slice(0, MOST_FORMER_SONGS) };
}

/**
 * The song of a file as it was in the show before, or a new one. A song that is there already comes
 * as a second one.
 */
function songFor(show: ShowDocument, song: SongFile): ShowSong {
  const isThere = show.songs.some(({ sha256 }) => sha256 === song.sha256);
  const former = isThere ? undefined : show.formerSongs.find(({ sha256 }) => sha256 === song.sha256);
  return former ?? newShowSong({ id: freeId(show), ...songFile(song) });
}

const songFile = ({ sha256, fileName }: SongFile): SongFile => ({ sha256, fileName });

/** "song 1", "song 2" …: the next that no song has. */
function freeId(show: ShowDocument): string {
  const numbers = [...show.songs, ...show.formerSongs].map((song) => Number(/^song (\d+)$/.exec(song.id)?.[1] ?? 0));
  return `song ${Math.max(0, ...numbers) + 1}`;
}

/**
 * Settles all locks as they are: the film is laid with them from nothing, and changes to them then
 * move only what is near.
 */
export function settleLocks(show: ShowDocument): ShowDocument {
  const settledLocks: ShowDocument["settledLocks"] = [
    ...show.slides.flatMap(({ id, landingLock: place, length }): ShowDocument["settledLocks"] => [
      ...(place ? [{ kind: "landing" as const, id, place }] : []),
      ...(length?.locked ? [{ kind: "length" as const, id, seconds: length.seconds }] : []),
    ]),
    ...show.passages.flatMap(({ id, startLock: place }) => (place ? [{ kind: "passage" as const, id, place }] : [])),
  ];
  return JSON.stringify(settledLocks) === JSON.stringify(show.settledLocks) ? show : { ...show, settledLocks };
}
