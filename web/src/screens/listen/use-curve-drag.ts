import { indexOfNearestBeat } from "@humming-tide/core/grid";
import { changeMarker, type Marker, type ShowSong } from "@humming-tide/core/show";
import type { PointerEvent as ReactPointerEvent, RefObject } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { useAppDispatch } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { followPointer } from "../../ui/follow-pointer.ts";
import { PENNANT_WIDTH } from "../../ui/pennant.ts";
import { GRID_HEIGHT } from "./draw-curve.ts";
import { MARKER_BOTTOM, MARKER_TOP } from "./draw-markers.ts";
import { useListenSong } from "./listen-song.tsx";

/** How near the pointer must be to a beat or a flag to take hold of it. */
export const GRAB_PIXELS = 6;
/** A pointer that moves no further has pressed, not dragged. */
const STILL_PIXELS = 2;
const SHORTEST_LOOP_SECONDS = 0.1;
const MOVED_SECONDS = 1e-4;

/** A press on a curve, with what is under it. */
interface CurvePress {
  readonly event: ReactPointerEvent<HTMLCanvasElement>;
  readonly box: DOMRect;
  readonly pixelsPerSecond: number;
  /** Of the song, inside it. */
  readonly secondsAt: (clientX: number) => number;
  readonly startSeconds: number;
}

/**
 * What the pointer does on a curve. On a marker's flag it chooses the marker, and close up drags it
 * to beats and onsets that are near (Alt frees it). Close up, on a beat's ripple, it drags the
 * beat: its neighbours follow, and Escape puts it back. With Shift it draws the loop. Elsewhere it
 * moves the playhead.
 *
 * @param span Seconds that are shown around the playhead; null for the whole song.
 */
export function useCurveDrag(
  canvas: RefObject<HTMLCanvasElement | null>,
  span: number | null,
): (event: ReactPointerEvent<HTMLCanvasElement>) => void {
  const player = usePlayer();
  const { song, analysis } = useListenSong();
  const dragMarker = useMarkerDrag(span);
  const dragBeat = useBeatDrag();
  const dragLoop = useLoopDrag();
  const isClose = span !== null;
  return (event) => {
    if (!canvas.current || event.button !== 0) return;
    const box = canvas.current.getBoundingClientRect();
    const shown = span ?? analysis.durationSeconds;
    const from = isClose ? player.filmSeconds() - span / 2 : 0;
    const secondsAt = (clientX: number): number =>
      Math.max(0, Math.min(analysis.durationSeconds, from + ((clientX - box.left) / box.width) * shown));
    const startSeconds = secondsAt(event.clientX);
    const press: CurvePress = { event, box, pixelsPerSecond: box.width / shown, secondsAt, startSeconds };
    if (isOnFlags(press)) {
      const marker = markerUnder(song.markers, press);
      if (marker) return dragMarker(press, marker);
      // The second click of a double click would fall elsewhere, had the first one moved the curve.
      if (isClose) return;
    }
    if (isClose && dragBeat(press)) return;
    if (event.shiftKey) return dragLoop(press);
    player.seek(startSeconds);
    if (!isClose)
      followPointer(event.currentTarget, event.pointerId, {
        move: (moved) => player.seek(secondsAt(moved.clientX)),
        end: () => undefined,
      });
  };
}

/** Whether a press is on the lane of flags. */
function isOnFlags({ event, box }: CurvePress): boolean {
  const top = event.clientY - box.top;
  return top >= MARKER_TOP - 3 && top <= MARKER_BOTTOM;
}

/** The marker whose flag is under a press: of several, the one that is drawn on top. */
const markerUnder = (markers: readonly Marker[], { startSeconds, pixelsPerSecond }: CurvePress): Marker | undefined =>
  markers.findLast(({ seconds }) => {
    const distance = (startSeconds - seconds) * pixelsPerSecond;
    return distance >= -GRAB_PIXELS / 2 && distance <= PENNANT_WIDTH + 1;
  });

/** Chooses a marker and goes to it; close up, a drag puts it elsewhere. */
function useMarkerDrag(span: number | null): (press: CurvePress, marker: Marker) => void {
  const player = usePlayer();
  const { analysis, grid, draft, change, chooseMarker } = useListenSong();
  return ({ event, pixelsPerSecond, secondsAt, startSeconds }, marker) => {
    chooseMarker(marker.id);
    player.pause();
    const grabbed = startSeconds - marker.seconds;
    const placeAt = ({ clientX, altKey }: PointerEvent): number => {
      const free = Math.max(0, Math.min(analysis.durationSeconds, secondsAt(clientX) - grabbed));
      return altKey ? free : nearPlace(free, grid.beats, analysis.onsets, GRAB_PIXELS / pixelsPerSecond);
    };
    const moved = (at: PointerEvent) => {
      const seconds = placeAt(at);
      return (song: ShowSong) => ({ markers: changeMarker(song.markers, marker.id, { seconds }) });
    };
    let hasMoved = false;
    followPointer(event.currentTarget, event.pointerId, {
      move: (at) => {
        hasMoved ||= Math.abs(at.clientX - event.clientX) > STILL_PIXELS;
        if (hasMoved && span !== null) draft(moved(at));
      },
      end: (last) => {
        draft(null);
        if (last && hasMoved && span !== null) change(moved(last));
        else player.seek(marker.seconds);
      },
    });
  };
}

/** Drags the beat whose ripple is under a press, and says whether there is one. */
function useBeatDrag(): (press: CurvePress) => boolean {
  const player = usePlayer();
  const { grid, draft, change } = useListenSong();
  return ({ event, box, pixelsPerSecond, secondsAt, startSeconds }) => {
    const beat = grid.beats[indexOfNearestBeat(grid.beats, startSeconds)];
    const isOnGrid = event.clientY > box.bottom - GRID_HEIGHT;
    if (!beat || !isOnGrid || Math.abs(beat.seconds - startSeconds) * pixelsPerSecond > GRAB_PIXELS) return false;
    player.pause();
    const dragged = (toSeconds: number) => (song: ShowSong) => ({
      gridEdits: [...song.gridEdits, { kind: "drag" as const, seconds: beat.seconds, toSeconds }],
    });
    followPointer(event.currentTarget, event.pointerId, {
      move: (moved) => draft(dragged(secondsAt(moved.clientX))),
      end: (last) => {
        draft(null);
        const to = last && secondsAt(last.clientX);
        if (to !== null && Math.abs(to - beat.seconds) > MOVED_SECONDS) change(dragged(to));
      },
    });
    return true;
  };
}

/** Draws the stretch that is played again and again. */
function useLoopDrag(): (press: CurvePress) => void {
  const dispatch = useAppDispatch();
  return ({ event, secondsAt, startSeconds: start }) => {
    const loopTo = (seconds: number): void => {
      const loop = { startSeconds: Math.min(start, seconds), endSeconds: Math.max(start, seconds) };
      if (loop.endSeconds - loop.startSeconds > SHORTEST_LOOP_SECONDS) dispatch(viewActions.listeningChanged({ loop }));
    };
    followPointer(event.currentTarget, event.pointerId, {
      move: (moved) => loopTo(secondsAt(moved.clientX)),
      end: () => undefined,
    });
  };
}

/**
 * The beat, or else the onset, that is nearest to a time within reach; the time itself where there
 * is none.
 */
export function nearPlace(
  seconds: number,
  beats: readonly { readonly seconds: number }[],
  onsets: readonly number[],
  reachSeconds: number,
): number {
  const beat = beats[indexOfNearestBeat(beats, seconds)]?.seconds;
  if (beat !== undefined && Math.abs(beat - seconds) <= reachSeconds) return beat;
  const onset = onsets.find((time) => Math.abs(time - seconds) <= reachSeconds);
  return onset ?? seconds;
}
