import type { FilmPlan } from "../film/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import { lastOf } from "../presence/index.ts";
import type { ShowDocument } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";
import type { Finding } from "./finding.ts";

/** Music that sinks faster than this seems to be cut off. Common practice. */
const SHORTEST_FADE_SECONDS = 0.5;
/** Sound behind the end that nobody misses: the tail of a last chord. */
const TAIL_SECONDS = 0.25;
/**
 * A fade this near to a bar begins on it: a tenth of a second is two frames and a half, and a fade
 * begins softly.
 */
const ON_BAR_SECONDS = 0.1;

/** Music that just stops, and a fade that begins off a bar. */
export function checkMusic(
  show: ShowDocument,
  plan: FilmPlan,
  analysis: (sha256: string) => MusicAnalysis | undefined,
): Finding[] {
  const { startSeconds, endSeconds } = plan.sound.fadeOut;
  const last = plan.music.songs.at(-1);
  const song = show.songs.find(({ id }) => id === last?.songId);
  if (!song || song.muted) return [];
  const place = { slotIndex: plan.slots.length - 1, slideId: lastOf(plan.slots).slideId, seconds: endSeconds };
  const fixes: Finding["fixes"] = song.fadeOutBars === null ? [] : [{ kind: "fadeByRule", songId: song.id }];
  const fade = endSeconds - startSeconds;
  if (fade < SHORTEST_FADE_SECONDS && goesOn(plan, song.trimEndSeconds, analysis(song.sha256)))
    return [
      {
        kind: "music-cut",
        severity: "error",
        place: { ...place, outputs: [] },
        values: { endSeconds, fadeSeconds: fade, leastSeconds: SHORTEST_FADE_SECONDS },
        fixes,
      },
    ];
  const bars = plan.music.grid.beats.filter(({ position }) => position === 1).map(({ seconds }) => seconds);
  if (bars.length === 0) return [];
  const off = Math.min(...bars.map((bar) => Math.abs(bar - startSeconds)));
  // A song that rings out by itself ends on its own time.
  if (off <= ON_BAR_SECONDS || !goesOn(plan, song.trimEndSeconds, analysis(song.sha256))) return [];
  return [
    {
      kind: "fade-off-bar",
      severity: "warning",
      place: { slotIndex: null, slideId: null, seconds: startSeconds, outputs: [] },
      values: { startSeconds, offSeconds: off, isTrimmed: song.fadeOutBars !== null },
      fixes,
    },
  ];
}

/** Whether there is music of the last song behind the film's end. */
function goesOn(plan: FilmPlan, trimEndSeconds: Seconds | null, heard: MusicAnalysis | undefined): boolean {
  const isTrimmed =
    trimEndSeconds !== null && heard !== undefined && trimEndSeconds < heard.musicEndSeconds - TAIL_SECONDS;
  return isTrimmed || plan.sound.lengthSeconds < plan.music.materialSeconds - TAIL_SECONDS;
}
