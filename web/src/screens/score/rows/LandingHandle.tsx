import type { FilmSlot } from "@humming-tide/core/film";
import { landingText } from "@humming-tide/core/fit";
import { indexOfNearestBeat } from "@humming-tide/core/grid";
import { present } from "@humming-tide/core/presence";
import { type FrameRate, frameStart, nearestFrame } from "@humming-tide/core/time";
import type { KeyboardEvent, ReactNode } from "react";
import { lockedAt, lockedSecondsOf } from "../../../store/locks.ts";
import { selectionActions } from "../../../store/selection-slice.ts";
import { showActions } from "../../../store/show-slice.ts";
import { store, useAppDispatch } from "../../../store/store.ts";
import { placeAt, type ScoreLayout } from "../layout/score-layout.ts";
import { useMovedByKeys } from "../moved-by-keys.ts";
import { landingClass, transitionClass } from "./landing-shapes.ts";
import type { EdgeDrags } from "./use-edge-drag.ts";

interface LandingHandleProps {
  slot: FilmSlot;
  share: number;
  rate: FrameRate;
  layout: ScoreLayout;
  moved: boolean;
  drags: EdgeDrags;
}

/**
 * Where one picture gives way to the next: a drop at the landing, a tide over the overlap, a lock
 * where it is held.
 */
export function LandingHandle(props: LandingHandleProps): ReactNode {
  return (
    <>
      <Tide {...props} />
      <Handle {...props} />
    </>
  );
}

/** To be grabbed, or moved with the arrows. */
function Handle({ slot, share, rate, layout, moved, drags }: LandingHandleProps): ReactNode {
  const dispatch = useAppDispatch();
  const movable = slot.round === 0;
  const { ref, note } = useMovedByKeys<HTMLDivElement>(`landing ${slot.slideId} ${slot.round}`);
  const landing = present(slot.landing);
  const nudge = (event: KeyboardEvent): void => {
    const direction = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
    if (direction === 0 || !movable || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    event.stopPropagation();
    const document = store.getState().show.document;
    if (!document) return;
    const at = lockedSecondsOf(document, slot.slideId) ?? landing.seconds;
    const target = event.altKey ? frameBeside(at, direction, rate) : beatBeside(layout, at, direction);
    if (target === null) return;
    note();
    dispatch(showActions.edited(lockedAt(document, slot.slideId, target, event.altKey)));
  };
  return (
    <div
      ref={ref}
      role="slider"
      tabIndex={0}
      data-testid="landing"
      data-space-plays
      data-slot={slot.index}
      data-locked={slot.locked}
      data-seconds={landing.seconds}
      aria-label={`Landing of slot ${slot.index + 1}`}
      aria-valuenow={Math.round(landing.seconds * 1000) / 1000}
      aria-valuetext={`${landing.seconds.toFixed(2)} seconds, on ${landingText(landing)}${slot.locked ? ", locked" : ""}`}
      aria-disabled={!movable}
      title={
        movable
          ? "Drag from beat to beat; with Alt from frame to frame"
          : "This picture is shown again here; move it where it is shown first"
      }
      onPointerDown={(event) => drags.landing(event, slot.index)}
      onFocus={() => dispatch(selectionActions.picked({ slideId: slot.slideId, round: slot.round }))}
      onKeyDown={nudge}
      className={`absolute -bottom-[5px] z-[3] h-[29px] w-[24px] -translate-x-1/2 touch-none ${landingClass(landing.strength, slot.locked, moved)} ${movable ? "cursor-ew-resize hover:bg-lantern/35" : "cursor-not-allowed"}`}
      style={{ left: `${share * 100}%` }}
    />
  );
}

function Tide({ slot, rate, layout }: LandingHandleProps): ReactNode {
  const { transitionIn } = slot;
  if (transitionIn.kind === "cut") return null;
  const here = placeAt(layout, present(slot.landing).seconds);
  const at = (frame: number): number => {
    const place = placeAt(layout, frameStart(frame, rate));
    return place.share + (place.row - here.row);
  };
  const [left, right] = [at(transitionIn.startFrame), at(transitionIn.endFrame)];
  return (
    <div
      aria-hidden
      className={`pointer-events-none absolute bottom-0 z-[2] h-[26px] ${transitionClass(transitionIn.kind)}`}
      style={{ left: `${left * 100}%`, width: `${(right - left) * 100}%` }}
    />
  );
}

const frameBeside = (at: number, direction: number, rate: FrameRate): number =>
  frameStart(nearestFrame(at, rate) + direction, rate);

function beatBeside(layout: ScoreLayout, at: number, direction: number): number | null {
  const real = layout.beats.filter((beat) => !beat.imagined);
  const usable = real.length > 0 ? real : layout.beats;
  return usable[indexOfNearestBeat(usable, at) + direction]?.seconds ?? null;
}
