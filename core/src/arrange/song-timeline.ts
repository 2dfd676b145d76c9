import type { Grid, GridBeat } from "../grid/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import type { ShowSong, SongJoin } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";

/**
 * A stretch of the song as recorded, played without a jump: from `startSeconds` (inclusive) to
 * `endSeconds` (exclusive) of the song.
 */
export interface SongRun {
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
  /** Where it begins in the song as it is played: trimmed, joined, at its speed. */
  readonly playedSeconds: Seconds;
}

/** A song as it is played by itself. Played seconds count from its trimmed beginning. */
export interface SongTimeline {
  readonly runs: readonly SongRun[];
  readonly lengthSeconds: Seconds;
  readonly speed: number;
  /** Joins that cannot be followed, because the song never comes to them or they lead out of it. */
  readonly lostJoins: readonly SongJoin[];
}

/** A run shorter than this is not heard as music. */
const SHORTEST_RUN_SECONDS = 0.25;

/** Trim, joins and speed of a song. A trim that leaves nothing is passed over. O(joins). */
export function songTimeline(song: ShowSong, analysis: MusicAnalysis): SongTimeline {
  const [start, end] = usedStretch(song, analysis);
  const runs: SongRun[] = [];
  const lostJoins: SongJoin[] = [];
  let from = start;
  let played = 0;
  const run = (to: number): void => {
    runs.push({ startSeconds: from, endSeconds: to, playedSeconds: played });
    played += (to - from) / song.speed;
  };
  for (const join of song.joins) {
    const isMet = join.fromSeconds >= from + SHORTEST_RUN_SECONDS && join.fromSeconds < end;
    const leadsInside = join.toSeconds >= start && join.toSeconds <= end - SHORTEST_RUN_SECONDS;
    if (!isMet || !leadsInside) {
      lostJoins.push(join);
      continue;
    }
    run(join.fromSeconds);
    from = join.toSeconds;
  }
  run(end);
  return { runs, lengthSeconds: played, speed: song.speed, lostJoins };
}

/** From the trimmed start to the trimmed end, or to where the music ends. */
function usedStretch(song: ShowSong, analysis: MusicAnalysis): [start: number, end: number] {
  const musicEnd = analysis.musicEndSeconds > 0 ? analysis.musicEndSeconds : analysis.durationSeconds;
  const start = Math.min(song.trimStartSeconds, analysis.durationSeconds);
  const end = Math.min(song.trimEndSeconds ?? musicEnd, analysis.durationSeconds);
  return end - start >= SHORTEST_RUN_SECONDS ? [start, end] : [0, musicEnd];
}

/** Beats that were heard a moment early still belong to the bar that a join leads to. */
const EDGE_SECONDS = 0.02;

/**
 * Every moment of the song that is played, in the order of playing: a list of times of the song in
 * played seconds, each as often as it is heard.
 */
export function playedTimes<Mark>(
  timeline: SongTimeline,
  marks: readonly Mark[],
  secondsOf: (mark: Mark) => number,
): { readonly mark: Mark; readonly playedSeconds: Seconds }[] {
  return timeline.runs.flatMap((run, index) => {
    const isLast = index === timeline.runs.length - 1;
    const [low, high] = [
      run.startSeconds - (index > 0 ? EDGE_SECONDS : 0),
      run.endSeconds - (isLast ? 0 : EDGE_SECONDS),
    ];
    return marks
      .filter((mark) => secondsOf(mark) >= low && secondsOf(mark) < high)
      .map((mark) => ({ mark, playedSeconds: playedAt(timeline, run, secondsOf(mark)) }));
  });
}

const playedAt = (timeline: SongTimeline, run: SongRun, songSeconds: Seconds): number =>
  Math.max(0, run.playedSeconds + (songSeconds - run.startSeconds) / timeline.speed);

/** The beats of a song's grid as they are played; bars keep their count. */
export function playedBeats(timeline: SongTimeline, grid: Grid): GridBeat[] {
  return playedTimes(timeline, grid.beats, (beat) => beat.seconds).map(({ mark, playedSeconds }) => ({
    ...mark,
    seconds: playedSeconds,
  }));
}
