import { correctedGrid, type Grid } from "../grid/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import { firstIndex } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { ShowSong } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";
import { type PlayedSection, sectionsOf } from "./song-sections.ts";

/** A song with what a person decided about it, and what was heard in it. */
export interface SongWithAnalysis {
  readonly song: Pick<ShowSong, "gridEdits" | "sections">;
  readonly analysis: MusicAnalysis;
}

/** A beat is not missed for what is lost in counting. */
const SLACK_SECONDS = 0.02;

/**
 * Where a place of one song has its counterpart in another: the section of the same role (the
 * second chorus in the second chorus), there the same bar and beat. Between two beats it is the
 * same share of the way. Sections without a role, and all where one of the songs has none, are told
 * by their letters. Null where the other song has no such section, bar or beat. Seconds of either
 * song; O(beats).
 */
export function counterpartSeconds(seconds: Seconds, from: SongWithAnalysis, to: SongWithAnalysis): Seconds | null {
  const byRole = [from, to].every(({ song }) => song.sections?.some(({ role }) => role !== null) ?? false);
  const [old, next] = [placesOf(from, byRole), placesOf(to, byRole)];
  const place = barPlaceAt(old, seconds);
  return place && secondsOfBarPlace(next, place);
}

interface SongPlaces {
  readonly sections: readonly NumberedSection[];
  readonly grid: Grid;
}

interface NumberedSection extends PlayedSection {
  /** "chorus 2", "B 2": its role or its letter, and which of them it is. */
  readonly key: string;
}

function placesOf({ song, analysis }: SongWithAnalysis, byRole: boolean): SongPlaces {
  const counts = new Map<string, number>();
  const sections = sectionsOf(song, analysis).map((section): NumberedSection => {
    const kind = (byRole && section.role) || section.letter;
    const number = (counts.get(kind) ?? 0) + 1;
    counts.set(kind, number);
    return { ...section, key: `${kind} ${number}` };
  });
  return { sections, grid: correctedGrid(analysis, song.gridEdits) };
}

/** The last index for which a property holds that holds from 0 up to it; -1: for none. */
const lastIndex = (length: number, holds: (index: number) => boolean): number =>
  firstIndex(length, (index) => !holds(index)) - 1;

/** A place as a musician names it. */
interface BarPlace {
  readonly key: string;
  /** Bars and beats from the section's start on, and the share of the beat that has gone by. */
  readonly bar: number;
  readonly beat: number;
  readonly share: number;
}

/** Beats of a section, bar by bar. */
function barsOf({ grid }: SongPlaces, { startSeconds, endSeconds }: PlayedSection): number[][] {
  const bars: number[][] = [];
  for (const { seconds, position } of grid.beats) {
    if (seconds < startSeconds - SLACK_SECONDS || seconds >= endSeconds - SLACK_SECONDS) continue;
    const bar = bars.at(-1);
    if (position === 1 || !bar) bars.push([seconds]);
    else bar.push(seconds);
  }
  return bars;
}

/**
 * Where a beat of a section ends: on the next one, in this bar or the next, or with the section.
 */
const beatEnd = (bars: readonly number[][], bar: number, beat: number, { endSeconds }: PlayedSection): number =>
  bars[bar]?.[beat + 1] ?? bars[bar + 1]?.[0] ?? endSeconds;

function barPlaceAt(places: SongPlaces, seconds: Seconds): BarPlace | null {
  const { sections } = places;
  const section =
    sections[lastIndex(sections.length, (i) => itemAt(sections, i).startSeconds <= seconds + SLACK_SECONDS)];
  if (!section) return null;
  const bars = barsOf(places, section);
  const isBegun = (beat: number | undefined): boolean => beat !== undefined && beat <= seconds + SLACK_SECONDS;
  const bar = lastIndex(bars.length, (i) => isBegun(itemAt(bars, i)[0]));
  const beats = bars[bar];
  if (!beats) return null;
  const beat = lastIndex(beats.length, (i) => isBegun(beats[i]));
  const start = itemAt(beats, beat);
  const end = beatEnd(bars, bar, beat, section);
  const share = Math.max(0, Math.min(1, (seconds - start) / (end - start)));
  return { key: section.key, bar, beat, share: share * (end - start) <= SLACK_SECONDS ? 0 : share };
}

function secondsOfBarPlace(places: SongPlaces, { key, bar, beat, share }: BarPlace): number | null {
  const section = places.sections.find((one) => one.key === key);
  if (!section) return null;
  const bars = barsOf(places, section);
  const start = bars[bar]?.[beat];
  if (start === undefined) return null;
  return start + share * (beatEnd(bars, bar, beat, section) - start);
}
