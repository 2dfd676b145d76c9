import { type PlayedSection, sectionNames, sectionsOf, songPlaceAt } from "@humming-tide/core/arrange";
import { indexOfNearestBeat } from "@humming-tide/core/grid";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { changeMarker, type ShowSong } from "@humming-tide/core/show";
import {
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
  type PointerEvent as ReactPointerEvent,
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { useFilmClock, usePlayer } from "../../stage/player-context.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";
import { PENNANT_WIDTH } from "../../ui/pennant.ts";
import { drawCurve, GRID_HEIGHT } from "./draw-curve.ts";
import { MARKER_BOTTOM, MARKER_TOP } from "./draw-markers.ts";
import { useListenSong } from "./listen-song.tsx";

/** From single frames (a quarter of a second is six at 25 a second) to the song, on a slider whose steps feel alike. */
const SHORTEST_SPAN_SECONDS = 0.25;
const ZOOM_STEPS = 100;
/** How near the pointer must be to a beat to take hold of it. */
const GRAB_PIXELS = 6;

/** Above the whole song with its energy, below a stretch around the playhead down to single frames. */
export function SongCurve(): ReactNode {
  const { analysis } = useListenSong();
  const [span, setSpan] = useState(8);
  const longest = Math.max(1, analysis.durationSeconds);
  const position = Math.round((ZOOM_STEPS * Math.log(longest / span)) / Math.log(longest / SHORTEST_SPAN_SECONDS));
  const zoomTo = useCallback(
    (step: number) => {
      const share = Math.max(0, Math.min(ZOOM_STEPS, step)) / ZOOM_STEPS;
      setSpan(longest * (SHORTEST_SPAN_SECONDS / longest) ** share);
    },
    [longest],
  );
  return (
    <>
      <Curve span={null} label="The whole song" className="h-[124px]" />
      <div className="flex items-center justify-between gap-4">
        <h2 className="shrink-0 text-[15px]">Around the playhead</h2>
        <LoopBar />
        <label className="flex items-center gap-2 text-[13px] text-quiet">
          <span className="sr-only">Zoom</span>
          <input
            type="range"
            min={0}
            max={ZOOM_STEPS}
            value={position}
            aria-valuetext={`${span.toFixed(2)} seconds`}
            className="w-36 accent-[var(--ink-soft)]"
            onChange={(event) => zoomTo(Number(event.target.value))}
          />
          <span className="w-14 text-right text-ink">{span < 10 ? span.toFixed(2) : Math.round(span)} s</span>
        </label>
      </div>
      <Curve
        span={span}
        label="Around the playhead"
        className="min-h-[180px] flex-1"
        onZoom={(direction) => zoomTo(position + 4 * direction)}
      />
    </>
  );
}

/** The stretch that is played round and round. */
function LoopBar(): ReactNode {
  const dispatch = useAppDispatch();
  const loop = useAppSelector((state) => state.view.listening.loop);
  const player = usePlayer();
  const setLoop = (next: typeof loop): void => void dispatch(viewActions.listeningChanged({ loop: next }));
  const start = (): void => {
    const from = player.filmSeconds();
    setLoop({ startSeconds: from, endSeconds: Math.min(player.lengthSeconds, from + 4) });
  };
  return (
    <div className="flex items-center gap-2 text-[13px] text-soft">
      {loop ? (
        <>
          <span className="whitespace-nowrap">
            Loop {loop.startSeconds.toFixed(1)} to {loop.endSeconds.toFixed(1)} s
          </span>
          <Button kind="quiet" onClick={() => setLoop(null)}>
            End the loop
          </Button>
        </>
      ) : (
        <Button kind="quiet" title="Or draw over the curve with Shift" onClick={start}>
          Loop four seconds
        </Button>
      )}
    </div>
  );
}

interface CurveProps {
  /** How many seconds are shown around the playhead; null for the whole song. */
  span: number | null;
  label: string;
  className: string;
  onZoom?: (direction: 1 | -1) => void;
}

function Curve({ span, label, className, onZoom }: CurveProps): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  const player = usePlayer();
  const { song, analysis, peaks, grid, chosenMarkerId, placeMarker } = useListenSong();
  const landings = useLandings();
  const loop = useAppSelector((state) => state.view.listening.loop);
  const rate = useAppSelector((state) => state.show.document!.frameRate);
  const duration = analysis.durationSeconds;
  const sections = useMemo(() => namedSections(song, analysis), [song, analysis]);
  const isWhole = span === null;
  const startDrag = useCurveDrag(canvas, span);
  const draw = useCallback(
    (playhead: number) => {
      if (!canvas.current) return;
      drawCurve(canvas.current, {
        from: isWhole ? 0 : playhead - span / 2,
        to: isWhole ? duration : playhead + span / 2,
        playhead,
        peaks,
        energy: isWhole ? analysis.energy : null,
        beats: grid.beats,
        sections,
        doubts: analysis.doubts,
        landings,
        markers: song.markers,
        chosenMarkerId,
        isClose: !isWhole,
        loop,
        frameSeconds: rate.den / rate.num,
      });
    },
    [isWhole, span, duration, peaks, analysis, sections, grid, landings, song.markers, chosenMarkerId, loop, rate],
  );
  useFilmClock(draw);
  useEffect(() => {
    const again = (): void => draw(player.filmSeconds());
    const resized = new ResizeObserver(again);
    if (canvas.current) resized.observe(canvas.current);
    window.addEventListener("themechange", again);
    again();
    return () => {
      resized.disconnect();
      window.removeEventListener("themechange", again);
    };
  }, [draw, player]);
  useEffect(() => {
    const element = canvas.current;
    if (!element || !onZoom) return;
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      onZoom(event.deltaY < 0 ? 1 : -1);
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [onZoom]);
  const placeAt = (event: MouseEvent): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const top = event.clientY - box.top;
    if (span === null || top < MARKER_TOP - 3 || top > MARKER_BOTTOM) return;
    const seconds = player.filmSeconds() + ((event.clientX - box.left) / box.width - 0.5) * span;
    const reach = (GRAB_PIXELS / box.width) * span;
    placeMarker(
      Math.max(0, Math.min(duration, event.altKey ? seconds : nearPlace(seconds, grid.beats, analysis.onsets, reach))),
    );
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.key === "Home" || event.key === "End") player.seek(event.key === "Home" ? 0 : player.lengthSeconds);
    else if (onZoom && (event.key === "+" || event.key === "-")) onZoom(event.key === "+" ? 1 : -1);
    else return;
    event.preventDefault();
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      tabIndex={0}
      aria-label={`${label}: waveform and grid. Home and End go to its ends${onZoom ? ", plus and minus zoom" : ""}.`}
      data-testid={isWhole ? "whole-song" : "close-curve"}
      className={`w-full cursor-crosshair rounded-md bg-raised ${className}`}
      onPointerDown={startDrag}
      onDoubleClick={placeAt}
      onKeyDown={onKey}
    />
  );
}

/** Landings of the film's slides on this song, in seconds of the song. */
function useLandings(): readonly number[] {
  const { song } = useListenSong();
  const plan = useAppSelector((state) => state.view.plan);
  return useMemo(
    () =>
      plan?.slots.flatMap(({ landing }) => {
        const place = landing && songPlaceAt(plan.music, landing.seconds);
        return place?.songId === song.id ? [place.seconds] : [];
      }) ?? [],
    [plan, song.id],
  );
}

/**
 * What the pointer does on a curve: on a marker's flag it chooses and, close up, drags the marker (to beats and onsets that are near; Alt frees it), a double
 * click beside one puts a new one; on a beat's ripple it drags the beat (its neighbours follow, Escape puts it back); with Shift it draws the loop;
 * elsewhere it moves the playhead.
 */
function useCurveDrag(
  canvas: RefObject<HTMLCanvasElement | null>,
  span: number | null,
): (event: ReactPointerEvent<HTMLCanvasElement>) => void {
  const player = usePlayer();
  const dispatch = useAppDispatch();
  const { song, analysis, grid, draft, change, chooseMarker } = useListenSong();
  const duration = analysis.durationSeconds;
  return (event) => {
    const element = canvas.current;
    if (!element || event.button !== 0) return;
    const box = element.getBoundingClientRect();
    const shown = span ?? duration;
    const from = span === null ? 0 : player.filmSeconds() - span / 2;
    const secondsAt = (clientX: number): number =>
      Math.max(0, Math.min(duration, from + ((clientX - box.left) / box.width) * shown));
    const start = secondsAt(event.clientX);
    element.setPointerCapture(event.pointerId);
    const top = event.clientY - box.top;
    if (top >= MARKER_TOP - 3 && top <= MARKER_BOTTOM) {
      const pixelsPerSecond = box.width / shown;
      const marker = song.markers.findLast(({ seconds }) => {
        const distance = (start - seconds) * pixelsPerSecond;
        return distance >= -GRAB_PIXELS / 2 && distance <= PENNANT_WIDTH + 1;
      });
      if (marker) {
        chooseMarker(marker.id);
        player.pause();
        const grabbed = start - marker.seconds;
        const reach = GRAB_PIXELS / pixelsPerSecond;
        const placeAt = (moved: PointerEvent): number => {
          const free = Math.max(0, Math.min(duration, secondsAt(moved.clientX) - grabbed));
          return moved.altKey ? free : nearPlace(free, grid.beats, analysis.onsets, reach);
        };
        const moved = (seconds: number) => (current: ShowSong) => ({
          markers: changeMarker(current.markers, marker.id, { seconds }),
        });
        let hasMoved = false;
        follow(element, {
          move: (at) => {
            hasMoved ||= Math.abs(at.clientX - event.clientX) > 2;
            if (hasMoved && span !== null) draft(moved(placeAt(at)));
          },
          end: (last) => {
            draft(null);
            if (last && hasMoved && span !== null) change(moved(placeAt(last)));
            else player.seek(marker.seconds);
          },
        });
        return;
      }
      // A click beside the flags close up moves nothing, or the second one of a double click would fall elsewhere.
      if (span !== null) return;
    }
    const beat = grid.beats[indexOfNearestBeat(grid.beats, start)];
    const isOnGrid = event.clientY > box.bottom - GRID_HEIGHT;
    const isNear = beat && (Math.abs(beat.seconds - start) / shown) * box.width <= GRAB_PIXELS;
    if (span !== null && isOnGrid && isNear) {
      player.pause();
      const edit = (to: number) => ({ kind: "drag" as const, seconds: beat.seconds, toSeconds: to });
      follow(element, {
        move: (moved) => draft((song) => ({ gridEdits: [...song.gridEdits, edit(secondsAt(moved.clientX))] })),
        end: (last) => {
          draft(null);
          const to = last && secondsAt(last.clientX);
          if (to !== null && Math.abs(to - beat.seconds) > 1e-4)
            change((song) => ({ gridEdits: [...song.gridEdits, edit(to)] }));
        },
      });
    } else if (event.shiftKey) {
      const loopTo = (seconds: number): void => {
        const [low, high] = [Math.min(start, seconds), Math.max(start, seconds)];
        if (high - low > 0.1) dispatch(viewActions.listeningChanged({ loop: { startSeconds: low, endSeconds: high } }));
      };
      follow(element, { move: (moved) => loopTo(secondsAt(moved.clientX)), end: () => undefined });
    } else {
      player.seek(start);
      if (span === null)
        follow(element, { move: (moved) => player.seek(secondsAt(moved.clientX)), end: () => undefined });
    }
  };
}

/** The beat, or else the onset, that is nearest to a time within reach; the time itself where there is none. */
function nearPlace(
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

/** Follows a captured pointer until it is let go; Escape ends with null. */
function follow(
  element: HTMLElement,
  { move, end }: { move: (event: PointerEvent) => void; end: (last: PointerEvent | null) => void },
): void {
  const up = (event: PointerEvent): void => finish(event);
  const cancel = (): void => finish(null);
  const escape = (event: globalThis.KeyboardEvent): void => {
    if (event.key === "Escape") finish(null);
  };
  const finish = (last: PointerEvent | null): void => {
    element.removeEventListener("pointermove", move);
    element.removeEventListener("pointerup", up);
    element.removeEventListener("pointercancel", cancel);
    window.removeEventListener("keydown", escape);
    end(last);
  };
  element.addEventListener("pointermove", move);
  element.addEventListener("pointerup", up);
  element.addEventListener("pointercancel", cancel);
  window.addEventListener("keydown", escape);
}

/** The sections of a song with the names that the screen shows. */
function namedSections(song: ShowSong, analysis: MusicAnalysis): PlayedSection[] {
  const sections = sectionsOf(song, analysis);
  const names = sectionNames(sections);
  return sections.map((section, i) => ({ ...section, label: names[i]! }));
}
