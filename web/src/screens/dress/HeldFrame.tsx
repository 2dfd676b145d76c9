import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { areaOf, keepingInView, type Size, seenPart, shapeOf, viewIn } from "@humming-tide/core/picture";
import { type Slide, setView } from "@humming-tide/core/show";
import type { Point, View } from "@humming-tide/core/values";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useCallback, useEffect, useRef } from "react";
import { edit } from "../../store/edit.ts";
import { arrowStep } from "./arrow-step.ts";
import { LEAST_ZOOM, MOST_ZOOM } from "./zoom-range.ts";

/** One press of an arrow key, as a share of the picture. */
const KEY_STEP = 0.01;
/** One press of plus or minus. */
const KEY_ZOOM = 1.05;
/** A wheel's usual step (100 pixels) makes the picture a tenth larger. */
const WHEEL_ZOOM = 1.001;

interface HeldFrameProps {
  plan: FilmPlan;
  slot: FilmSlot;
  slide: Slide;
  held: "start" | "end";
}

/**
 * The whole stage as a handle: the picture is dragged under the frame, and made larger and smaller
 * by the wheel, two fingers, or plus and minus.
 */
export function HeldFrame({ plan, slot, slide, held }: HeldFrameProps): ReactNode {
  const handle = useRef<HTMLButtonElement>(null);
  const fingers = useRef(new Map<number, Point>());
  const shape = shapeOf(plan.size);
  const area = areaOf(slot, plan.size);
  const seenIn = (views: Slide["views"], end: "start" | "end"): View =>
    views.find((view) => view.shape === shape)?.[end] ?? viewIn(slot.move[end], slot.pictureSize, area);
  const { centre, zoom } = seenIn(slide.views, held);
  const reframe = (change: (before: View, part: Size) => View): void =>
    edit((document) => {
      // From the newest edit, not from what was drawn last: a quick drag has several steps between
      // two drawings.
      const { views } = document.slides.find(({ id }) => id === slide.id) ?? slide;
      const before = seenIn(views, held);
      const wanted = change(before, seenPart(before, slot.pictureSize, area));
      const at = { x: round(clampShare(wanted.centre.x)), y: round(clampShare(wanted.centre.y)) };
      // The frame stays on the picture: bars are never made by hand.
      const view = keepingInView(
        { centre: at, zoom: wanted.zoom },
        { ...at, width: 0, height: 0 },
        slot.pictureSize,
        area,
      );
      return setView(document, slide.id, shape, {
        start: held === "start" ? view : seenIn(views, "start"),
        end: held === "end" ? view : seenIn(views, "end"),
      });
    }, `view ${slide.id}`);
  const shift = (across: number, down: number): void =>
    reframe((before, part) => ({
      ...before,
      centre: { x: before.centre.x - across * part.width, y: before.centre.y - down * part.height },
    }));
  /** `at`: the place of the frame that stays where it is, in shares of it. */
  const enlarge = (times: number, at: Point): void =>
    reframe((before, part) => {
      const next = Math.round(Math.max(LEAST_ZOOM, Math.min(MOST_ZOOM, before.zoom * times)) * 1000) / 1000;
      const rest = 1 - before.zoom / next;
      return {
        zoom: next,
        centre: {
          x: before.centre.x + (at.x - 0.5) * part.width * rest,
          y: before.centre.y + (at.y - 0.5) * part.height * rest,
        },
      };
    });
  useWheel(handle, (event, at) => enlarge(WHEEL_ZOOM ** -event.deltaY, at));

  const placeOf = ({ clientX, clientY, currentTarget }: PointerEvent): Point => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    return { x: (clientX - left) / width, y: (clientY - top) / height };
  };
  const press = (event: PointerEvent): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    fingers.current.set(event.pointerId, placeOf(event));
  };
  const drag = (event: PointerEvent): void => {
    const before = fingers.current.get(event.pointerId);
    if (!before) return;
    const now = placeOf(event);
    fingers.current.set(event.pointerId, now);
    const other = [...fingers.current].find(([id]) => id !== event.pointerId)?.[1];
    if (!other) {
      shift(now.x - before.x, now.y - before.y);
      return;
    }
    const apart = (one: Point): number => Math.hypot(one.x - other.x, one.y - other.y);
    if (apart(before) > 0.01)
      enlarge(apart(now) / apart(before), { x: (now.x + other.x) / 2, y: (now.y + other.y) / 2 });
  };
  const letGo = (event: PointerEvent): void => void fingers.current.delete(event.pointerId);
  const onKey = (event: KeyboardEvent): void => {
    const step = arrowStep(event);
    if (step) shift(step.x * KEY_STEP, step.y * KEY_STEP);
    else if (event.key === "+" || event.key === "=") enlarge(KEY_ZOOM, MIDDLE);
    else if (event.key === "-") enlarge(1 / KEY_ZOOM, MIDDLE);
    else return;
    event.preventDefault();
  };
  return (
    <button
      ref={handle}
      type="button"
      role="slider"
      aria-label={`Frame at the ${held}`}
      aria-valuenow={Math.round(100 * centre.x)}
      aria-valuetext={`${Math.round(100 * centre.x)} % across, ${Math.round(100 * centre.y)} % down, ${Math.round(100 * zoom)} % large`}
      onPointerDown={press}
      onPointerMove={drag}
      onPointerUp={letGo}
      onPointerCancel={letGo}
      onKeyDown={onKey}
      className="absolute inset-0 cursor-move touch-none border-2 border-lantern"
    >
      <span className="absolute top-2 left-2 rounded bg-black/70 px-2 py-0.5 text-xs text-white">
        {held === "start" ? "Start of the move" : "End of the move"}
      </span>
    </button>
  );
}

const MIDDLE: Point = { x: 0.5, y: 0.5 };
const clampShare = (value: number): number => Math.max(0, Math.min(1, value));
const round = (value: number): number => Math.round(value * 1e4) / 1e4;

/** Hears the wheel over an element, and keeps the page from scrolling by it. */
function useWheel(element: React.RefObject<HTMLElement | null>, onWheel: (event: WheelEvent, at: Point) => void): void {
  const newest = useRef(onWheel);
  useEffect(() => {
    newest.current = onWheel;
  });
  const hear = useCallback((event: WheelEvent) => {
    event.preventDefault();
    const { left, top, width, height } = (event.currentTarget as HTMLElement).getBoundingClientRect();
    newest.current(event, { x: (event.clientX - left) / width, y: (event.clientY - top) / height });
  }, []);
  useEffect(() => {
    const { current } = element;
    current?.addEventListener("wheel", hear, { passive: false });
    return () => current?.removeEventListener("wheel", hear);
  }, [element, hear]);
}
