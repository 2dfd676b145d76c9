import { correctedGrid, type Grid, type GridBeat, phraseStarts } from "../grid/index.ts";
import { counted } from "../language/index.ts";
import { type MusicAnalysis, type Stretch } from "../music/index.ts";
import { median } from "../numeric/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import type { LevelPoint, ShowSong } from "../show/index.ts";
import {
  type GainCurve,
  gainProduct,
  piecewiseLinear,
  risingPower,
  sinkingPower,
  type TimePoint,
} from "../sound/index.ts";
import type { Seconds } from "../time/index.ts";
import {
  type ArrangedBridge,
  type ArrangedMusic,
  type ArrangedSong,
  filmSecondsAt,
  type MusicPiece,
} from "./arranged-music.ts";
import { sectionsOf } from "./song-sections.ts";
import { playedBeats, playedTimes, type SongRun, type SongTimeline, songTimeline } from "./song-timeline.ts";
import { type TempoBridge, tempoBridge } from "./tempo-bridge.ts";

/**
 * A jump inside a song is faded over within this. It ends just before the beat, so the attack is
 * wholly that of the new place.
 */
const JOIN_FADE_SECONDS = 0.03;
const JOIN_LEAD_SECONDS = 0.005;

/**
 * Where a song is cut out of a recording it begins and ends within this, so that nothing clicks.
 */
const CUT_FADE_SECONDS = 0.008;

/** A mark this little before the place where its song begins to count still belongs to it. */
const EDGE_SECONDS = 0.01;

/** A song with all that its place among others depends on. */
interface PlacedSong {
  readonly song: ShowSong;
  readonly analysis: MusicAnalysis;
  readonly grid: Grid;
  readonly timeline: SongTimeline;
  readonly beats: readonly GridBeat[];
  readonly bars: readonly number[];
  /**
   * Played seconds between which it sounds: less than all of it where a crossfade begins late or
   * ends early.
   */
  start: number;
  end: number;
  /** Played seconds against film seconds; straight at the speed of playing outside of them. */
  knots: { played: number; film: number }[];
  /** Its fades into and out of neighbours, in film seconds. */
  rise: Stretch | null;
  fall: Stretch | null;
  bridge: ArrangedBridge | null;
  readonly remarks: string[];
}

/**
 * Puts a show's songs one after the other into film time: trims, joins, speeds, gaps, crossfades
 * with bars kept together, level curves, fades on bars. Pure; songs whose analysis is missing are
 * left out. O(songs * (beats + joins)).
 */
export function arrangeSongs(
  songs: readonly ShowSong[],
  analysisOf: (sha256: string) => MusicAnalysis | undefined,
): ArrangedMusic {
  const placed: PlacedSong[] = [];
  for (const song of songs) {
    const analysis = analysisOf(song.sha256);
    if (analysis) place(placed, song, analysis);
  }
  const pieces = placed.map(piecesOf);
  const last = placed.at(-1);
  const lengthSeconds = last ? filmAt(last, last.end) : 0;
  return {
    lengthSeconds,
    materialSeconds: last ? lengthSeconds + restOfMaterial(last) : 0,
    songs: placed.map(
      (song): ArrangedSong => ({
        songId: song.song.id,
        startSeconds: filmAt(song, song.start),
        endSeconds: filmAt(song, song.end),
        bridge: song.bridge,
        remarks: song.remarks,
      }),
    ),
    pieces: pieces.flat(),
    grid: {
      ...beatsOf(placed),
      freeTime: placed.flatMap((song, i) => stretches(itemAt(pieces, i), song.grid.freeTime)),
    },
    phrases: mapped(
      placed,
      (song) => phraseStarts(song.analysis, song.grid),
      (seconds) => seconds,
      (_, seconds) => seconds,
    ),
    sections: placed.flatMap((song, i) =>
      sectionsOf(song.song, song.analysis).flatMap((section) =>
        stretches(itemAt(pieces, i), [section]).map((stretch) => ({
          ...stretch,
          label: section.label,
          songId: song.song.id,
        })),
      ),
    ),
    accents: mapped(
      placed,
      (song) => song.analysis.accents,
      (accent) => accent.seconds,
      (accent, seconds) => ({ ...accent, seconds }),
    ),
    markers: mapped(
      placed,
      (song) => song.song.markers,
      (marker) => marker.seconds,
      (marker, seconds, song) => ({ ...marker, seconds, songId: song.song.id }),
    ),
    fadeOutSeconds: last ? fadeOutStart(last, lengthSeconds) : null,
  };
}

/** All beats, and the metre of the song that has most of them. */
function beatsOf(placed: readonly PlacedSong[]): Pick<ArrangedMusic["grid"], "beats" | "beatsPerBar"> {
  const longest = placed.reduce<PlacedSong | null>((a, b) => (a && a.beats.length >= b.beats.length ? a : b), null);
  return {
    beats: placed.flatMap((song) => inFilm(song, song.beats).map(({ mark, seconds }) => ({ ...mark, seconds }))),
    beatsPerBar: longest?.grid.beatsPerBar ?? 4,
  };
}

/** The marks of all songs that are heard, each at its time in the film. */
function mapped<Mark, Moved>(
  placed: readonly PlacedSong[],
  marksOf: (song: PlacedSong) => readonly Mark[],
  secondsOf: (mark: Mark) => number,
  moved: (mark: Mark, seconds: Seconds, song: PlacedSong) => Moved,
): Moved[] {
  return placed.flatMap((song) => {
    const played = playedTimes(song.timeline, marksOf(song), secondsOf);
    const inside = inFilm(
      song,
      played.map(({ mark, playedSeconds }) => ({ mark, seconds: playedSeconds })),
    );
    return inside.map(({ mark, seconds }) => moved(mark.mark, seconds, song));
  });
}

/** Puts one more song behind those that are placed, over the last of them where it crossfades. */
function place(placed: PlacedSong[], song: ShowSong, analysis: MusicAnalysis): void {
  const grid = correctedGrid(analysis, song.gridEdits);
  const timeline = songTimeline(song, analysis);
  const beats = playedBeats(timeline, grid);
  const next: PlacedSong = {
    song,
    analysis,
    grid,
    timeline,
    beats,
    bars: beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds),
    start: 0,
    end: timeline.lengthSeconds,
    knots: [],
    rise: null,
    fall: null,
    bridge: null,
    remarks: timeline.lostJoins.map(
      ({ fromSeconds }) => `The join at ${fromSeconds.toFixed(1)} s of “${song.fileName}” cannot be followed any more.`,
    ),
  };
  const before = placed.at(-1);
  const wish = song.entry;
  if (!before || wish.kind === "gap") {
    const gap = wish.kind === "gap" ? wish.seconds : 0;
    next.knots = [{ played: 0, film: (before ? filmAt(before, before.end) : 0) + gap }];
  } else {
    // The song before must have come in wholly before it goes.
    const free = lastOf(before.knots).played;
    const outgoing = before.bars.filter((bar) => bar >= free - 1e-6);
    const bridge = tempoBridge(outgoing, next.bars, wish.bars);
    if (bridge) cross(before, next, bridge, wish.bars);
    else {
      next.knots = [{ played: 0, film: filmAt(before, before.end) }];
      next.remarks.push(
        `“${song.fileName}” follows without a crossfade: one of the two songs has no bars there, or their tempi are more than 25 % apart.`,
      );
    }
  }
  placed.push(next);
}

function cross(before: PlacedSong, next: PlacedSong, bridge: TempoBridge, wishedBars: number): void {
  const startFilm = filmAt(before, itemAt(bridge.outgoing, 0));
  const films = bridge.offsets.map((offset) => startFilm + offset);
  const known = lastOf(before.knots).played;
  const knots = bridge.outgoing.map((played, i) => ({ played, film: itemAt(films, i) }));
  before.knots.push(...knots.filter(({ played }) => played > known + 1e-6));
  before.end = lastOf(bridge.outgoing);
  next.knots = bridge.incoming.map((played, i) => ({ played, film: itemAt(films, i) }));
  next.start = itemAt(bridge.incoming, 0);
  const stretch = { startSeconds: itemAt(films, 0), endSeconds: lastOf(films) };
  before.fall = stretch;
  next.rise = stretch;
  const bars = bridge.offsets.length - 1;
  next.bridge = {
    ...stretch,
    bars,
    fromBpm: tempoNear(before, itemAt(bridge.outgoing, 0)),
    toBpm: tempoNear(next, lastOf(bridge.incoming)),
    largestChange: bridge.largestChange,
  };
  if (bars * Math.max(1, 1 / bridge.ratio) < wishedBars)
    next.remarks.push(`There is room for a crossfade of ${counted(bars, "bar")} only.`);
}

/** Felt tempo around a played second. */
function tempoNear({ beats }: PlacedSong, played: number): number {
  const after = beats.findIndex((beat) => beat.seconds >= played - 1e-6);
  const near = beats.slice(Math.max(0, after - 4), after + 5).map((beat) => beat.seconds);
  return 60 / median(near.slice(1).map((seconds, i) => seconds - itemAt(near, i)));
}

/** Film seconds of played seconds of a song. */
const filmAt = ({ knots }: PlacedSong, played: number): number =>
  piecewiseLinear(
    knots,
    (knot) => knot.played,
    (knot) => knot.film,
    played,
  );

/**
 * A song's runs in film time, with their gain; neighbouring runs overlap for the fade of their
 * join.
 */
function piecesOf(placed: PlacedSong): MusicPiece[] {
  const { timeline, song, start, end } = placed;
  const counts = counting(placed);
  const sounding = timeline.runs.filter((run) => {
    const runEnd = run.playedSeconds + (run.endSeconds - run.startSeconds) / timeline.speed;
    return runEnd > start + 1e-9 && run.playedSeconds < end - 1e-9;
  });
  return sounding.map((run, index) => {
    const isFirst = index === 0;
    const isLast = index === sounding.length - 1;
    const runEnd = run.playedSeconds + (run.endSeconds - run.startSeconds) / timeline.speed;
    const from = Math.max(run.playedSeconds, start);
    const to = Math.min(runEnd, end);
    const [startFilm, endFilm] = [filmAt(placed, from), filmAt(placed, to)];
    const lead = isFirst ? 0 : Math.min(JOIN_FADE_SECONDS + JOIN_LEAD_SECONDS, run.startSeconds);
    const time = timePoints(placed, run, from, to, lead, isLast ? 0 : -JOIN_LEAD_SECONDS);
    const gain: GainCurve[] = [levelGain(song.level, time), ...edgeFades(placed, isFirst, isLast)];
    if (!isFirst)
      gain.push([
        { seconds: itemAt(time, 0).filmSeconds, gain: 0 },
        { seconds: startFilm - JOIN_LEAD_SECONDS, gain: 1 },
      ]);
    if (!isLast) {
      gain.push([
        { seconds: endFilm - JOIN_LEAD_SECONDS - JOIN_FADE_SECONDS, gain: 1 },
        { seconds: endFilm - JOIN_LEAD_SECONDS, gain: 0 },
      ]);
    }
    return {
      songId: song.id,
      owner: { kind: "song", id: song.id },
      soundName: song.sha256,
      time,
      gain: gainProduct(gain),
      startSeconds: Math.min(endFilm, Math.max(startFilm, counts.startSeconds)),
      endSeconds: Math.max(startFilm, Math.min(endFilm, counts.endSeconds)),
    };
  });
}

/** Where a song's own beats count: neighbours change over in the middle of their crossfade. */
function counting(placed: PlacedSong): Stretch {
  const middle = (stretch: Stretch): number => (stretch.startSeconds + stretch.endSeconds) / 2;
  const { rise, fall, start, end } = placed;
  return {
    startSeconds: rise ? middle(rise) : filmAt(placed, start),
    endSeconds: fall ? middle(fall) : filmAt(placed, end),
  };
}

/**
 * Film against song seconds of a run between two played seconds, `lead` longer at its beginning and
 * `tail` longer (or shorter) at its end.
 */
function timePoints(
  placed: PlacedSong,
  run: SongRun,
  from: number,
  to: number,
  lead: number,
  tail: number,
): TimePoint[] {
  const { speed } = placed.timeline;
  const point = (played: number): TimePoint => ({
    filmSeconds: filmAt(placed, played),
    soundSeconds: run.startSeconds + (played - run.playedSeconds) * speed,
  });
  const first = point(from);
  const last = point(to);
  const inner = placed.knots
    .filter(({ played }) => played > from + 1e-9 && played < to - 1e-9)
    .map(({ played }) => point(played));
  const leading = { filmSeconds: first.filmSeconds - lead / speed, soundSeconds: first.soundSeconds - lead };
  const trailing = { filmSeconds: last.filmSeconds + tail, soundSeconds: last.soundSeconds + tail * speed };
  return [...(lead > 0 ? [leading] : []), first, ...inner, tail === 0 ? last : trailing];
}

/** Crossfades, and fades over bars at the song's own ends. */
function edgeFades(placed: PlacedSong, isFirst: boolean, isLast: boolean): GainCurve[] {
  const { song, rise, fall, bars } = placed;
  const curves: GainCurve[] = [];
  if (isFirst && rise) curves.push(risingPower(rise.startSeconds, rise.endSeconds));
  if (isFirst && !rise && song.fadeInBars > 0) {
    const inside = bars.filter((bar) => bar > 0.05);
    const end = inside[song.fadeInBars - 1] ?? inside.at(-1);
    if (end !== undefined) curves.push(risingPower(filmAt(placed, 0), filmAt(placed, end)));
  }
  const begins = filmAt(placed, placed.start);
  if (isFirst && !rise && itemAt(placed.timeline.runs, 0).startSeconds > 0)
    curves.push(risingPower(begins, begins + CUT_FADE_SECONDS));
  const ends = filmAt(placed, placed.end);
  if (isLast && !fall && song.trimEndSeconds !== null) curves.push(sinkingPower(ends - CUT_FADE_SECONDS, ends));
  if (isLast && fall) curves.push(sinkingPower(fall.startSeconds, fall.endSeconds));
  else if (isLast && song.fadeOutBars) {
    const start = fadeBar(placed, song.fadeOutBars);
    if (start !== null) curves.push(sinkingPower(filmAt(placed, start), filmAt(placed, placed.end)));
  }
  return curves;
}

/** The bar start with which the last `count` bars before the song's end begin. */
function fadeBar({ bars, end }: PlacedSong, count: number): number | null {
  const before = bars.filter((bar) => bar < end - 0.5);
  return before.at(-count) ?? before[0] ?? null;
}

/**
 * A level curve over film time: straight in decibels, drawn closely enough that it is so for the
 * ear as well.
 */
export function levelGain(level: readonly LevelPoint[], time: readonly TimePoint[]): GainCurve {
  const step = 0.5;
  const points = level.flatMap((point, i) => {
    const next = level[i + 1];
    const parts = next ? Math.max(1, Math.ceil((next.seconds - point.seconds) / step)) : 1;
    if (!next) return [point];
    return Array.from({ length: parts }, (_, k) => ({
      seconds: point.seconds + ((next.seconds - point.seconds) * k) / parts,
      decibels: point.decibels + ((next.decibels - point.decibels) * k) / parts,
    }));
  });
  return points.map(({ seconds, decibels }) => ({
    seconds: filmSecondsAt(time, seconds),
    gain: 10 ** (decibels / 20),
  }));
}

/**
 * A fade that a person chose for the film's end; 0 bars: the music rings out as it does, only its
 * last instant is faded.
 */
function fadeOutStart(last: PlacedSong, lengthSeconds: Seconds): number | null {
  if (last.song.fadeOutBars === null) return null;
  const bar = last.song.fadeOutBars === 0 ? null : fadeBar(last, last.song.fadeOutBars);
  return bar === null ? Math.max(0, lengthSeconds - 0.05) : filmAt(last, bar);
}

/** Sound that follows the end of the last song as it is played. */
function restOfMaterial({ song, analysis, timeline }: PlacedSong): number {
  if (song.trimEndSeconds !== null) return 1;
  return Math.max(0, analysis.durationSeconds - lastOf(timeline.runs).endSeconds);
}

/** Marks in played seconds of a song put into film time, where the song counts. */
function inFilm<Mark extends { readonly seconds: Seconds }>(
  placed: PlacedSong,
  marks: readonly Mark[],
): { mark: Mark; seconds: Seconds }[] {
  const { startSeconds, endSeconds } = counting(placed);
  return marks
    .map((mark) => ({ mark, seconds: filmAt(placed, mark.seconds) }))
    .filter(({ seconds }) => seconds >= startSeconds - EDGE_SECONDS && seconds < endSeconds - EDGE_SECONDS);
}

/** Stretches of a song in film time, cut at the pieces that they touch. */
function stretches(pieces: readonly MusicPiece[], list: readonly Stretch[]): Stretch[] {
  return pieces.flatMap((piece) =>
    list.flatMap(({ startSeconds, endSeconds }) => {
      const start = Math.max(piece.startSeconds, filmSecondsAt(piece.time, startSeconds));
      const end = Math.min(piece.endSeconds, filmSecondsAt(piece.time, endSeconds));
      return end > start + 1e-6 ? [{ startSeconds: start, endSeconds: end }] : [];
    }),
  );
}
