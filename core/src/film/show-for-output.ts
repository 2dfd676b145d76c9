import type { FilmOutput, FilmPart, ShowDocument, ShowSong, Style, StyleWishes } from "../show/index.ts";

/**
 * The show as it is laid for one of its outputs: in its size and rate, without captions where it
 * has none. A part has only the song that it lies on, trimmed to it. Locks that lie outside of a
 * part are passed over (fitShow); voices belong to the whole film and are not in a part.
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

function partOf(show: ShowDocument, { songId, startSeconds, endSeconds, barsPerSlide }: FilmPart): ShowDocument {
  const song = show.songs.find(({ id }) => id === songId) ?? show.songs[0];
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
    lead: { kind: "song" },
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
