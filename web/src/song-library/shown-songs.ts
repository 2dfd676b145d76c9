import type { LibrarySong } from "@humming-tide/contract";
import { slidesTooMany } from "@humming-tide/core/fit";
import type { Pace } from "@humming-tide/core/values";

export const SORTS = [
  { value: "suits", label: "how it suits" },
  { value: "title", label: "title" },
  { value: "length", label: "length" },
  { value: "tempo", label: "tempo" },
] as const;
export type SongSort = (typeof SORTS)[number]["value"];

interface SongSearch {
  readonly words: string;
  readonly sort: SongSort;
  readonly pace: Pace;
  readonly slideCount: number;
}

interface ShownSong {
  readonly song: LibrarySong;
  /** Pictures that the song has no room for, or (negative) that it lacks. */
  readonly tooMany: number;
}

/**
 * The songs whose title or tags hold every word, in the order that was asked for; of equals,
 * favourites and then titles first.
 */
export function shownSongs(songs: readonly LibrarySong[], search: SongSearch): ShownSong[] {
  const words = search.words.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const found = songs
    .filter(({ title, tags }) => {
      const text = [title, ...tags].join(" ").toLocaleLowerCase();
      return words.every((word) => text.includes(word));
    })
    .map((song) => ({ song, tooMany: slidesTooMany(song, search.pace, search.slideCount) }));
  const rank = ({ song, tooMany }: ShownSong): number =>
    ({ suits: Math.abs(tooMany), title: 0, length: song.durationSeconds, tempo: song.tempoBpm ?? Infinity })[
      search.sort
    ];
  return found.sort((a, b) => {
    const [x, y] = [rank(a), rank(b)];
    if (x !== y) return x < y ? -1 : 1;
    return Number(b.song.isFavourite) - Number(a.song.isFavourite) || a.song.title.localeCompare(b.song.title);
  });
}
