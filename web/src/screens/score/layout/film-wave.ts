import { type ArrangedMusic, songPlaceAt } from "@humming-tide/core/arrange";
import { extremesBetween } from "@humming-tide/core/music";
import { valueFor } from "@humming-tide/core/presence";
import type { HeardSong } from "../../../store/song-slice.ts";

/** Lowest and highest sample, -127 to 127, of the music between two moments of the film. */
export type FilmWave = (fromSeconds: number, toSeconds: number) => [low: number, high: number];

/**
 * The waveform of all songs as they lie in the film; where two sound together, that of the one
 * whose beats count.
 */
export function filmWave(music: ArrangedMusic, heard: Readonly<Record<string, HeardSong>>): FilmWave {
  const hashes = new Map(music.pieces.map((piece) => [piece.songId, piece.soundName]));
  return (fromSeconds, toSeconds) => {
    const place = songPlaceAt(music, fromSeconds);
    const peaks = place && heard[valueFor(hashes, place.songId)]?.peaks;
    return peaks ? extremesBetween(peaks, place.seconds, place.seconds + toSeconds - fromSeconds) : [0, 0];
  };
}
