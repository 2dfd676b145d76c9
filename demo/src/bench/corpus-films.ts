import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import type { FitFacts } from "@humming-tide/core/film";
import { type MusicJson, musicAnalysisOf } from "@humming-tide/core/interchange";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";

/** A show on one of the songs of a corpus. */
export interface CorpusFilm {
  readonly name: string;
  readonly show: ShowDocument;
  readonly facts: FitFacts;
}

/**
 * Shows with so many pictures on each 4/4 song of a folder of analyses, as `humming-tide analyse`
 * writes them.
 */
export function* corpusFilms(folder: string, slideCounts: readonly number[]): Generator<CorpusFilm> {
  const names = readdirSync(folder).filter((name) => name.endsWith(".json"));
  for (const name of names.sort()) {
    const music = musicAnalysisOf(JSON.parse(readFileSync(path.join(folder, name), "utf8")) as MusicJson);
    if (music.meter !== "4/4") continue;
    const facts: FitFacts = { analysis: () => music, seen: () => undefined };
    for (const count of slideCounts) yield { name: path.parse(name).name, show: showOf(count), facts };
  }
}

const showOf = (count: number): ShowDocument => ({
  ...newShowDocument("Lantern regatta"),
  slides: Array.from({ length: count }, (_, i) =>
    newSlide({ id: `s${i}`, sha256: i.toString(16).padStart(64, "0"), fileName: `picture ${i}.jpg` }),
  ),
  songs: [newShowSong({ id: "song 1", sha256: "0".repeat(64), fileName: "song.wav" })],
});
