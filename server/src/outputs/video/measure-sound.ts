import type { FilmMeasurement } from "@humming-tide/contract";
import type { FilmReport } from "@humming-tide/core/interchange";
import { soundLag } from "@humming-tide/core/measure";
import { memorySource, resampled } from "@humming-tide/core/sound";
import { decodeMono } from "../../media/decode-sound.ts";
import { measureLoudness } from "./measure-loudness.ts";

const LARGEST_LAG_MS = 10;
const SAMPLE_RATE = 48_000;
/** Each stretch of a song is compared at this many places, evenly from its beginning to its end. */
const PLACES = 5;
/** With the reach, just below a power of two in samples: a little more would double the work. */
const WINDOW_SECONDS = 4.9;
const REACH_SECONDS = 0.5;
/**
 * Encoded music matches its source at 0.9 and more; another song, or silence under hiss, stays
 * below this.
 */
const LOWEST_MATCH = 0.3;
/**
 * Mean square below which music is too soft for an encoder to keep its shape, and a poor match
 * means nothing: -50 dB.
 */
const CLEAR_MEAN_SQUARE = 1e-5;

type Sound = FilmMeasurement["sound"];

/**
 * How far the music lies from where the report puts it, by correlation with the songs themselves.
 * `songPathOf` finds each of them by its hash.
 */
export async function measureSound(
  filmPath: string,
  songPathOf: (sha256: string) => string,
  report: FilmReport,
): Promise<Sound> {
  const film = await decodeMono(filmPath, { sampleRate: SAMPLE_RATE });
  const pieces: readonly Piece[] = report.pieces ?? [
    { ...report.music, filmEndSeconds: report.durationSeconds, speed: 1 },
  ];
  const places: Sound["places"] = [];
  let songSilent = true;
  for (const sha256 of new Set(pieces.map((piece) => piece.sha256))) {
    // One song at a time: an hour of several songs would not fit beside the film.
    const song = await decodeMono(songPathOf(sha256), { sampleRate: SAMPLE_RATE });
    songSilent &&= !song.samples.some((sample) => Math.abs(sample) > 1e-3);
    for (const piece of pieces) {
      if (piece.sha256 === sha256) places.push(...measurePiece(film.samples, song.samples, piece));
    }
  }
  places.sort((a, b) => a.filmSeconds - b.filmSeconds);
  const matching = places.filter((place) => place.match >= LOWEST_MATCH);
  const worst = matching.sort((a, b) => Math.abs(b.lagMs) - Math.abs(a.lagMs))[0];
  const loudness = await measureLoudness(filmPath);
  return { lagMs: songSilent || !worst ? null : worst.lagMs, songSilent, places, loudness };
}

type Piece = NonNullable<FilmReport["pieces"]>[number];

function measurePiece(film: Float32Array, song: Float32Array, piece: Piece): Sound["places"] {
  const { filmStartSeconds, filmEndSeconds, songStartSeconds, speed } = piece;
  const shared = Math.min(filmEndSeconds - filmStartSeconds, (song.length / SAMPLE_RATE - songStartSeconds) / speed);
  const window = Math.min(WINDOW_SECONDS, shared);
  const length = Math.round(window * SAMPLE_RATE);
  const reach = Math.round(Math.min(REACH_SECONDS, window / 2) * SAMPLE_RATE);
  const source = memorySource([song, new Float32Array(0)]);
  const places: Sound["places"] = [];
  for (let i = 0; i < PLACES && shared > 0; i++) {
    const offset = ((shared - window) * i) / (PLACES - 1);
    const filmSeconds = filmStartSeconds + offset;
    const songFrame = (songStartSeconds + offset * speed) * SAMPLE_RATE;
    const [expected] =
      speed === 1 ? source.read(Math.round(songFrame), length) : resampled(source, songFrame, speed, length);
    const from = Math.round(filmSeconds * SAMPLE_RATE);
    const lag = soundLag(expected, film.subarray(from, from + length), reach);
    const isClear = meanSquare(expected) > CLEAR_MEAN_SQUARE;
    // Soft places count where they match; clear ones always, so that music which is missing is not
    // passed over.
    if (isClear || (lag && lag.match >= LOWEST_MATCH)) {
      places.push({ filmSeconds, lagMs: lag ? (1000 * lag.samples) / SAMPLE_RATE : 0, match: lag?.match ?? 0 });
    }
  }
  return places;
}

function meanSquare(samples: Float32Array): number {
  let sum = 0;
  for (const sample of samples) sum += sample * sample;
  return sum / Math.max(1, samples.length);
}

export function soundProblems(sound: Sound): string[] {
  if (sound.songSilent) return [];
  const lost = sound.places.find((place) => place.match < LOWEST_MATCH);
  if (lost)
    return [`The film's sound at ${lost.filmSeconds.toFixed(1)} s is not the song's (match ${lost.match.toFixed(2)}).`];
  if (sound.lagMs === null) {
    return ["The film's sound could not be compared with the song: one of them is all but silent."];
  }
  return Math.abs(sound.lagMs) > LARGEST_LAG_MS
    ? [`The music is ${sound.lagMs.toFixed(1)} ms off where it should be.`]
    : [];
}
