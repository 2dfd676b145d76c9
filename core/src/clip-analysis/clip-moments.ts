import { median } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { type ClipSeries, WATCHED_STEP_SECONDS } from "./clip-series.ts";
import { type CrowdSound, crowdOnsets } from "./crowd-sound.ts";
import { smoothed, withoutSpikes } from "./smoothing.ts";
import type { UsablePart } from "./usable-part.ts";

/** Where a face is, seen at an instant: its height against the picture's. */
export interface FaceSight {
  readonly seconds: Seconds;
  /** Of the largest face that is whole; 0 where none is seen. */
  readonly height: number;
}

/** All that is known of a clip. */
export interface WatchedClip {
  readonly seen: ClipSeries;
  /** Null without sound. */
  readonly heard: CrowdSound | null;
  /** Rising; empty where faces were not looked for. */
  readonly faces: readonly FaceSight[];
}

export type ClipMomentKind = "crowd" | "movement" | "face";

/** A moment of a clip that may be worth an accent of the music. */
export interface ClipMoment {
  readonly kind: ClipMomentKind;
  /** Of the clip's own time. */
  readonly seconds: Seconds;
  /** 0 to 1: how far it stands out from the rest of the clip. Comparable between kinds. */
  readonly strength: number;
}

/** A peak must stand this many times as far above the middle as half of all steps do. */
const LEAST_PEAK_SPREADS = 4;
/** Change of what changes most under which nothing can be said to move. */
const LEAST_MOVEMENT = 1;
/** Change as large as this somebody sees who does not look for it. */
const LARGE_MOVEMENT = 8;
/** A movement is a peak against so much time before and behind it. */
const SURROUNDINGS_SECONDS = 2;
const MOST_OF_A_KIND = 3;
const APART_SECONDS = 1.5;
/** A face this high in the picture is as near as faces come. */
const NEAR_FACE = 0.45;
/** The largest face stands out where it is this much higher than faces mostly are in the clip. */
const LEAST_FACE_GROWTH = 1.25;
/** A face this much as high as at its highest belongs to the top. */
const NEARLY = 0.85;
/** A rise that is as clear as rises are; a crowd is rarer than movement, so it begins higher. */
const CLEAR_RISE_DECIBELS = 20;
/** Moves of the camera faster than this, in picture sides a second, hide what moves in it. */
const FAST_CAMERA = 0.6;

/**
 * The clip's moments within its usable part, the strongest first; none where nothing stands out.
 * O(steps log steps).
 */
export function clipMoments(clip: WatchedClip, { start, end }: UsablePart): ClipMoment[] {
  const from = start?.seconds ?? 0;
  const to = clip.seen.movement.length * WATCHED_STEP_SECONDS - (end?.seconds ?? 0);
  const isUsable = ({ seconds }: ClipMoment): boolean => seconds >= from && seconds <= to;
  return [crowdMoments(clip), movementPeaks(clip.seen), nearestFace(clip.faces)]
    .flatMap((ofAKind) => strongest(ofAKind.filter(isUsable)))
    .sort((a, b) => b.strength - a.strength || a.seconds - b.seconds);
}

function crowdMoments({ heard }: WatchedClip): ClipMoment[] {
  if (!heard) return [];
  return crowdOnsets(heard).map(({ seconds, riseDecibels }) => ({
    kind: "crowd",
    seconds,
    strength: Math.min(1, 0.55 + (0.45 * riseDecibels) / CLEAR_RISE_DECIBELS),
  }));
}

/**
 * Where what moves by itself moves most: peaks of the movement, smoothed over a tenth of a second.
 * Flashes and dropped frames last a step or two and do not count.
 */
function movementPeaks(seen: ClipSeries): ClipMoment[] {
  const steady = withoutSpikes(seen.movement).map((movement, step) => {
    const speed = Math.hypot(itemAt(seen.cameraX, step), itemAt(seen.cameraY, step));
    return movement / (1 + (speed / FAST_CAMERA) ** 2);
  });
  const around = Math.round(SURROUNDINGS_SECONDS / WATCHED_STEP_SECONDS);
  const curve = smoothed(steady, 0.1);
  // Against what moves around it: somebody who walks by goes on for seconds.
  const excess = curve.map((value, step) => value - median(curve.slice(Math.max(0, step - around), step + around)));
  const spread = Math.max(LEAST_MOVEMENT / LEAST_PEAK_SPREADS, median(excess.map(Math.abs)));
  const peaks: ClipMoment[] = [];
  for (const [step, value] of excess.entries()) {
    if (value < (excess[step - 1] ?? -1) || value <= (excess[step + 1] ?? -1)) continue;
    const height = value / spread;
    if (height < LEAST_PEAK_SPREADS) continue;
    // Movement is between a frame and the one before it.
    const seconds = Math.max(0, step - 0.5) * WATCHED_STEP_SECONDS;
    const clearness = 1 - LEAST_PEAK_SPREADS / (height + LEAST_PEAK_SPREADS);
    peaks.push({ kind: "movement", seconds, strength: clearness * Math.min(1, value / LARGE_MOVEMENT) });
  }
  return peaks;
}

function nearestFace(faces: readonly FaceSight[]): ClipMoment[] {
  const heights = faces.map(({ height }) => height);
  const most = Math.max(0, ...heights);
  if (most === 0) return [];
  const usual = median(heights);
  if (most < LEAST_FACE_GROWTH * usual) return [];
  const seconds = topOfCurve(faces, most);
  return [{ kind: "face", seconds, strength: Math.min(1, most / NEAR_FACE) * Math.min(1, 1.6 - usual / most) }];
}

/**
 * Where the looks around the nearest one are highest: finds tremble by some hundredths, so all that
 * are nearly as high as the highest count by how high they are.
 */
function topOfCurve(faces: readonly FaceSight[], most: number): Seconds {
  const top = faces.findIndex(({ height }) => height === most);
  const isNear = ({ height }: FaceSight | undefined = { seconds: 0, height: 0 }): boolean => height > NEARLY * most;
  let [from, to] = [top, top];
  while (isNear(faces[from - 1])) from--;
  while (isNear(faces[to + 1])) to++;
  let [sum, weights] = [0, 0];
  for (let i = from; i <= to; i++) {
    const { seconds, height } = itemAt(faces, i);
    // Looks lie closer together around the top: each stands for the time up to its neighbours.
    const span = (faces[i + 1]?.seconds ?? seconds) - (faces[i - 1]?.seconds ?? seconds);
    const weight = span * (height - NEARLY * most);
    sum += weight * seconds;
    weights += weight;
  }
  return weights > 0 ? sum / weights : itemAt(faces, top).seconds;
}

/** The strongest of a kind that are far enough from each other. */
function strongest(moments: readonly ClipMoment[]): ClipMoment[] {
  const kept: ClipMoment[] = [];
  for (const moment of [...moments].sort((a, b) => b.strength - a.strength || a.seconds - b.seconds)) {
    if (kept.length === MOST_OF_A_KIND) break;
    if (kept.every(({ seconds }) => Math.abs(seconds - moment.seconds) >= APART_SECONDS)) kept.push(moment);
  }
  return kept;
}
