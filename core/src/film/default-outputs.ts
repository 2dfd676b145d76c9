import { sectionsOf } from "../arrange/index.ts";
import { correctedGrid } from "../grid/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import { itemAt } from "../presence/index.ts";
import { type FilmOutput, type FilmPart, mainOutput, type ShowDocument } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";

/** Common practice. */
const TEASER_SECONDS = 30;
const TEASER_BARS_A_SLIDE = 1;

/**
 * The outputs that a show usually has, all under the same id, to be given one each when they are
 * taken: the whole film in several sizes, a short one where it is loudest, one that goes round and
 * round. Sizes are 16:9, 9:16, 1:1 and 4:5.
 */
export function defaultOutputs(
  show: ShowDocument,
  analysis: (sha256: string) => MusicAnalysis | undefined,
): FilmOutput[] {
  const main = mainOutput({ size: { width: 1920, height: 1080 }, frameRate: show.frameRate });
  const teaser = strongestPart(show, analysis, TEASER_SECONDS);
  return [
    main,
    { ...main, name: "4K", size: { width: 3840, height: 2160 } },
    {
      ...main,
      name: "Vertical teaser",
      size: { width: 1080, height: 1920 },
      part: teaser && { ...teaser, barsPerSlide: TEASER_BARS_A_SLIDE },
    },
    { ...main, name: "Square", size: { width: 1080, height: 1080 } },
    { ...main, name: "4:5", size: { width: 1080, height: 1350 } },
    { ...main, name: "Venue loop", loops: true },
    { ...main, name: "For phones", size: { width: 1280, height: 720 }, quality: "small" },
    { ...main, name: "Web player", container: "player" },
  ];
}

/**
 * The loudest stretch of exactly so many seconds of film in a show's songs, by the mean. It begins
 * on a bar: with a section or a phrase where there is one. It need not end on a bar: the fade takes
 * what is left. The earliest where two are as loud; null for songs without bars, or shorter ones.
 */
export function strongestPart(
  show: Pick<ShowDocument, "songs">,
  analysis: (sha256: string) => MusicAnalysis | undefined,
  lengthSeconds: Seconds,
): FilmPart | null {
  let best: { readonly part: FilmPart; readonly energy: number } | null = null;
  for (const song of show.songs) {
    const heard = analysis(song.sha256);
    if (!heard) continue;
    const grid = correctedGrid(heard, song.gridEdits);
    const bars = grid.beats.filter(({ position }) => position === 1).map(({ seconds }) => seconds);
    const begun = new Set(
      [...sectionsOf(song, heard).map(({ startSeconds }) => startSeconds), ...heard.phrases].map((at) =>
        nearestIndex(bars, at),
      ),
    );
    const starts = begun.size > 0 ? [...begun].sort((a, b) => a - b) : [...bars.keys()];
    for (const start of starts) {
      const startSeconds = bars[start];
      if (startSeconds === undefined) continue;
      const endSeconds = startSeconds + lengthSeconds * song.speed;
      if (endSeconds > heard.musicEndSeconds) continue;
      const energy = meanEnergy(heard, startSeconds, endSeconds);
      if (!best || energy > best.energy + 1e-9)
        best = { part: { songId: song.id, startSeconds, endSeconds, barsPerSlide: null }, energy };
    }
  }
  return best?.part ?? null;
}

function nearestIndex(times: readonly number[], at: number): number {
  let best = 0;
  for (const [index, time] of times.entries())
    if (Math.abs(time - at) < Math.abs(itemAt(times, best) - at)) best = index;
  return best;
}

function meanEnergy({ energy: { stepSeconds, values } }: MusicAnalysis, from: number, to: number): number {
  const inside = values.slice(Math.floor(from / stepSeconds), Math.ceil(to / stepSeconds));
  return inside.length === 0 ? 0 : inside.reduce((sum, value) => sum + value, 0) / inside.length;
}
