import { assertNever } from "../errors/index.ts";
import { type Grid, phraseStarts } from "../grid/index.ts";
import type { MusicAnalysis, Stretch } from "../music/index.ts";
import type { Marker } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";

/** Places of the music that markers can be set on, or thinned out to. */
export const MARKER_SPACINGS = ["beat", "second", "bar", "phrase", "section", "accent"] as const;
export type MarkerSpacing = (typeof MARKER_SPACINGS)[number];

/** A place with the name that it has in the music, if it has one. */
interface MarkerPlace {
  readonly seconds: Seconds;
  readonly name: string;
}

/**
 * Where the music has such places within a stretch (start inclusive, end exclusive), in rising
 * order: beats and bar starts of the corrected grid, whole seconds of the song, phrases, sections
 * and accents as heard. O(beats).
 */
export function markerPlaces(
  analysis: MusicAnalysis,
  grid: Grid,
  spacing: MarkerSpacing,
  { startSeconds, endSeconds }: Stretch,
): MarkerPlace[] {
  return placesOf(analysis, grid, spacing)
    .filter(({ seconds }) => seconds >= startSeconds && seconds < endSeconds)
    .sort((a, b) => a.seconds - b.seconds);
}

function placesOf(analysis: MusicAnalysis, grid: Grid, spacing: MarkerSpacing): MarkerPlace[] {
  const unnamed = (seconds: Seconds): MarkerPlace => ({ seconds, name: "" });
  switch (spacing) {
    case "beat":
      return grid.beats.map((beat) => unnamed(beat.seconds));
    case "second":
      return Array.from({ length: Math.ceil(analysis.musicEndSeconds) }, (_, seconds) => unnamed(seconds));
    case "bar":
      return grid.beats.filter((beat) => beat.position === 1).map((beat) => unnamed(beat.seconds));
    case "phrase":
      return phraseStarts(analysis, grid).map(unnamed);
    case "section":
      return analysis.sections.map(({ startSeconds, label }) => ({ seconds: startSeconds, name: label }));
    case "accent":
      return analysis.accents.map((accent) => unnamed(accent.seconds));
    default:
      return assertNever(spacing);
  }
}

/**
 * Markers on those places, as they are when the program sets them: sections and accents keep what
 * they are, other places are for cuts.
 */
export function detectedMarkers(places: readonly MarkerPlace[], spacing: MarkerSpacing): Omit<Marker, "id">[] {
  const kind = spacing === "section" || spacing === "accent" ? spacing : "cut";
  return places.map(({ seconds, name }) => ({ seconds, name, kind, origin: "detected" }));
}
