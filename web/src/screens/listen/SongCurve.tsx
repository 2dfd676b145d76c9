import { type PlayedSection, sectionNames, sectionsOf, songPlaceAt } from "@humming-tide/core/arrange";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { itemAt } from "@humming-tide/core/presence";
import type { ShowSong } from "@humming-tide/core/show";
import {
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { useFilmDrawing } from "../../stage/use-film-drawing.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";
import { drawCurve } from "./draw-curve.ts";
import { MARKER_BOTTOM, MARKER_TOP } from "./draw-markers.ts";
import { useListenSong } from "./listen-song.tsx";
import { GRAB_PIXELS, nearPlace, useCurveDrag } from "./use-curve-drag.ts";

/**
 * From single frames (a quarter of a second is six at 25 a second) to the song, on a slider whose
 * steps feel alike.
 */
const SHORTEST_SPAN_SECONDS = 0.25;
const ZOOM_STEPS = 100;

/**
 * Above the whole song with its energy, below a stretch around the playhead down to single frames.
 */
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
  const rate = useOpenShow((show) => show.frameRate);
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
  useFilmDrawing(canvas, draw);
  useWheelZoom(canvas, onZoom);
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

/** The wheel zooms the curve instead of scrolling the page. */
function useWheelZoom(canvas: RefObject<HTMLCanvasElement | null>, onZoom: CurveProps["onZoom"]): void {
  useEffect(() => {
    const element = canvas.current;
    if (!element || !onZoom) return;
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      onZoom(event.deltaY < 0 ? 1 : -1);
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [canvas, onZoom]);
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

/** The sections of a song with the names that the screen shows. */
function namedSections(song: ShowSong, analysis: MusicAnalysis): PlayedSection[] {
  const sections = sectionsOf(song, analysis);
  const names = sectionNames(sections);
  return sections.map((section, i) => ({ ...section, label: itemAt(names, i) }));
}
