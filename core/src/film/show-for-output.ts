import type { FilmOutput, FilmPart, ShowDocument, ShowSong, Style, StyleWishes } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";

/**
 * The show as it is laid for one of its outputs: in its size and rate, without captions where it
 * has none. A part has only the song that it lies on, trimmed to it, and is exactly as long. Locks
 * outside of a part are passed over (fitShow). Voices belong to the whole film and are not in it.
 */
export function showForOutput(show: ShowDocument, output: FilmOutput): ShowDocument {
  const { size, frameRate, captions, part } = output;
  const sized = { ...show, size, frameRate };
  const written = captions ? sized : withoutCaptions(sized);
  return part ? partOf(written, part) : written;
}

function withoutCaptions(show: ShowDocument): ShowDocument {
  const hidden = <T extends Pick<StyleWishes, "captions">>(style: T): T =>
    style.captions ? { ...style, captions: { ...style.captions, shown: false } } : style;
  return {
    ...show,
    style: hidden<Style>(show.style),
    passages: show.passages.map((passage) => ({ ...passage, style: hidden(passage.style) })),
    slides: show.slides.map((slide) => ({ ...slide, style: hidden(slide.style) })),
  };
}

/**
 * Where there are heroes, all others find room behind them: what may be left out is left out first.
 */
const heroesFirst = (slides: ShowDocument["slides"]): ShowDocument["slides"] =>
  slides.some(({ hero, rating }) => hero && rating !== "out")
    ? slides.map((slide) => (slide.hero || slide.rating === "out" ? slide : { ...slide, rating: "maybe" }))
    : slides;

/** The song that a part is of; where that has gone, the first one. */
export const songOfPart = <Song extends Pick<ShowSong, "id">>(
  songs: readonly Song[],
  { songId }: Pick<FilmPart, "songId">,
): Song | undefined => songs.find(({ id }) => id === songId) ?? songs[0];

/** How long the film of a part is. */
export const partSeconds = (
  { startSeconds, endSeconds }: Pick<FilmPart, "startSeconds" | "endSeconds">,
  { speed }: Pick<ShowSong, "speed">,
): Seconds => (endSeconds - startSeconds) / speed;

function partOf(show: ShowDocument, filmPart: FilmPart): ShowDocument {
  const { startSeconds, endSeconds, barsPerSlide } = filmPart;
  const song = songOfPart(show.songs, filmPart);
  if (!song) return show;
  const trimmed: ShowSong = {
    ...song,
    trimStartSeconds: startSeconds,
    trimEndSeconds: endSeconds,
    joins: [],
    entry: { kind: "gap", seconds: 0 },
    fadeInBars: 0,
    fadeOutBars: null,
    muted: false,
  };
  const part: ShowDocument = {
    ...show,
    songs: [trimmed],
    voices: [],
    // To the nearest frame; the song would be followed to the end of its last frame.
    lead: { kind: "length", seconds: partSeconds(filmPart, song) },
    slides: heroesFirst(show.slides),
  };
  if (barsPerSlide === null) return part;
  return {
    ...part,
    pace: { kind: "bars", count: barsPerSlide },
    passages: part.passages.map((passage) => ({ ...passage, pace: null })),
    // They come first, but stand as long as was asked for: by themselves heroes would stand twice
    // as long.
    slides: part.slides.map((slide) => ({ ...slide, hero: false })),
  };
}
