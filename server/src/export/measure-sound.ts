import type { FilmMeasurement } from "@humming-tide/contract";
import { soundLag } from "@humming-tide/core/check";
import type { FilmReport } from "@humming-tide/core/interchange";
import { decodeMono } from "../media/decode-sound.ts";

const LARGEST_LAG_MS = 10;
const SAMPLE_RATE = 48_000;
/** The song is compared at this many places, evenly from its beginning to the end of the film. */
const PLACES = 5;
const WINDOW_SECONDS = 6;
const REACH_SECONDS = 0.5;
/** Encoded music matches its source at 0.9 and more; another song, or silence under hiss, stays below this. */
const LOWEST_MATCH = 0.3;
/** Mean square below which music is too soft for an encoder to keep its shape, and a poor match means nothing: -50 dB. */
const CLEAR_MEAN_SQUARE = 1e-5;

type Sound = FilmMeasurement["sound"];

/** How far the music lies from where the report puts it, by correlation with the song itself. */
export async function measureSound(filmPath: string, musicPath: string, report: FilmReport): Promise<Sound> {
  const { filmStartSeconds, songStartSeconds } = report.music;
  const [film, song] = await Promise.all([decodeMono(filmPath, SAMPLE_RATE), decodeMono(musicPath, SAMPLE_RATE)]);
  const shared = Math.min(
    report.durationSeconds - filmStartSeconds,
    song.samples.length / SAMPLE_RATE - songStartSeconds,
  );
  const window = Math.min(WINDOW_SECONDS, shared);
  const reach = Math.round(Math.min(REACH_SECONDS, window / 2) * SAMPLE_RATE);
  const piece = (samples: Float32Array, seconds: number): Float32Array => {
    const from = Math.round(seconds * SAMPLE_RATE);
    return samples.subarray(from, from + Math.round(window * SAMPLE_RATE));
  };
  const places: Sound["places"] = [];
  for (let i = 0; i < PLACES && shared > 0; i++) {
    const offset = ((shared - window) * i) / (PLACES - 1);
    const expected = piece(song.samples, songStartSeconds + offset);
    const lag = soundLag(expected, piece(film.samples, filmStartSeconds + offset), reach);
    const isClear = meanSquare(expected) > CLEAR_MEAN_SQUARE;
    // Soft places count where they match; clear ones always, so that music which is missing is not passed over.
    if (isClear || (lag && lag.match >= LOWEST_MATCH)) {
      const filmSeconds = filmStartSeconds + offset;
      places.push({ filmSeconds, lagMs: lag ? (1000 * lag.samples) / SAMPLE_RATE : 0, match: lag?.match ?? 0 });
    }
  }
  const matching = places.filter((place) => place.match >= LOWEST_MATCH);
  const worst = matching.sort((a, b) => Math.abs(b.lagMs) - Math.abs(a.lagMs))[0];
  const songSilent = !song.samples.some((sample) => Math.abs(sample) > 1e-3);
  return { lagMs: songSilent || !worst ? null : worst.lagMs, songSilent, places };
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
