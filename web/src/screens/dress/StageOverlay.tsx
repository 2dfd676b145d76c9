import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { placedAt, SAFE_KINDS, type Size, safeArea } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import { changeSlides, type Slide } from "@humming-tide/core/show";
import { frameAt } from "@humming-tide/core/time";
import type { Point } from "@humming-tide/core/values";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useCallback, useRef } from "react";
import { useFilmClock, usePlayer } from "../../stage/player-context.tsx";
import { edit } from "../../store/edit.ts";
import { arrowStep } from "./arrow-step.ts";
import { FoundHeads } from "./FoundHeads.tsx";
import type { HeldEnd } from "./FramingPanel.tsx";
import { HeldFrame } from "./HeldFrame.tsx";

/** One press of an arrow key, as a share of the picture. */
const KEY_STEP = 0.01;

const clampShare = (value: number): number => Math.max(0, Math.min(1, value));
const rounded = ({ x, y }: Point): Point => ({ x: Math.round(x * 1e4) / 1e4, y: Math.round(y * 1e4) / 1e4 });

/**
 * Over the stage: safe areas, the subject's ring, and while a frame is set by hand the picture
 * itself to be dragged.
 */
export function StageOverlay({
  plan,
  slot,
  slide,
  single,
  ring,
  held,
  safeAreas,
}: {
  plan: FilmPlan;
  slot: FilmSlot;
  slide: Slide;
  single: boolean;
  /** The subject can be put elsewhere. */
  ring: boolean;
  held: HeldEnd;
  safeAreas: boolean;
}): ReactNode {
  return (
    <>
      {safeAreas && <SafeAreas size={plan.size} />}
      {single && held && <HeldFrame plan={plan} slot={slot} slide={slide} held={held} />}
      {single && ring && !held && <FoundHeads plan={plan} slot={slot} slide={slide} />}
      {single && ring && !held && <SubjectRings plan={plan} slot={slot} slide={slide} />}
    </>
  );
}

function SafeAreas({ size }: { size: Size }): ReactNode {
  const percent = (length: number, of: number): string => `${((100 * length) / of).toFixed(2)}%`;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0" data-testid="safe-areas">
      {SAFE_KINDS.map((kind) => {
        const { x, y, width, height } = safeArea(size, kind);
        return (
          <div
            key={kind}
            className={`absolute border-white/70 mix-blend-difference ${kind === "title" ? "border border-dashed" : "border"}`}
            style={{
              left: percent(x, size.width),
              top: percent(y, size.height),
              width: percent(width, size.width),
              height: percent(height, size.height),
            }}
          />
        );
      })}
    </div>
  );
}

/**
 * One ring for the slide's own picture, and one for each that the slide has beside it; neighbours
 * have theirs on their own slides.
 */
function SubjectRings({ plan, slot, slide }: { plan: FilmPlan; slot: FilmSlot; slide: Slide }): ReactNode {
  const ids = new Set([slide.id]);
  const { more } = slide;
  return (
    <>
      <SubjectRing
        plan={plan}
        move={slot.move}
        point={slide.subject ?? slot.subject}
        name="Subject of the picture"
        onMove={(subject) => edit((document) => changeSlides(document, ids, { subject }), `subject ${slide.id}`)}
      />
      {more.length > 0 &&
        slot.beside.map(({ move, subject: point }, index) => (
          <SubjectRing
            // biome-ignore lint/suspicious/noArrayIndexKey: the same picture may stand there twice
            key={index}
            plan={plan}
            move={move}
            point={more[index]?.subject ?? point}
            name={`Subject of picture ${index + 2}`}
            onMove={(subject) =>
              edit(
                (document) =>
                  changeSlides(document, ids, {
                    more: more.map((other, i) => (i === index ? { ...other, subject } : other)),
                  }),
                `subject ${index} ${slide.id}`,
              )
            }
          />
        ))}
    </>
  );
}

interface SubjectRingProps {
  plan: FilmPlan;
  move: FilmSlot["move"];
  /** In shares of the picture. */
  point: Point;
  name: string;
  onMove: (subject: Point) => void;
}

/** Sits where the subject is seen; follows the move while the film plays. */
function SubjectRing({ plan, move, point: { x, y }, name, onMove }: SubjectRingProps): ReactNode {
  const ring = useRef<HTMLButtonElement>(null);
  const player = usePlayer();
  const place = useCallback(
    (filmSeconds: number) => {
      const placed = placedAt(move, frameAt(filmSeconds, plan.rate));
      if (!ring.current) return;
      ring.current.style.left = `${(100 * (placed.x + x * placed.width)) / plan.size.width}%`;
      ring.current.style.top = `${(100 * (placed.y + y * placed.height)) / plan.size.height}%`;
    },
    [plan, move, x, y],
  );
  useFilmClock(place);
  const set = (subject: Point): void => onMove(rounded({ x: clampShare(subject.x), y: clampShare(subject.y) }));
  const drag = (event: PointerEvent): void => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const area = present(event.currentTarget.parentElement).getBoundingClientRect();
    const placed = placedAt(move, frameAt(player.filmSeconds(), plan.rate));
    const film = {
      x: ((event.clientX - area.left) / area.width) * plan.size.width,
      y: ((event.clientY - area.top) / area.height) * plan.size.height,
    };
    set({ x: (film.x - placed.x) / placed.width, y: (film.y - placed.y) / placed.height });
  };
  const onKey = (event: KeyboardEvent): void => {
    const step = arrowStep(event);
    if (step) set({ x: x + step.x * KEY_STEP, y: y + step.y * KEY_STEP });
  };
  return (
    <button
      ref={ring}
      type="button"
      role="slider"
      aria-label={name}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(100 * x)}
      aria-valuetext={`${Math.round(100 * x)} % across, ${Math.round(100 * y)} % down`}
      title="What must stay in view: drag it, or move it by arrow keys"
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={drag}
      onKeyDown={onKey}
      className="absolute size-9 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none rounded-full border-2 border-white/90 shadow-[0_0_0_1.5px_rgba(0,0,0,0.65),inset_0_0_0_1.5px_rgba(0,0,0,0.65)] active:cursor-grabbing"
    >
      <span
        aria-hidden
        className="absolute top-1/2 left-1/2 size-1.5 -translate-x-1/2 -translate-y-1/2 rounded-full bg-white shadow-[0_0_0_1.5px_rgba(0,0,0,0.65)]"
      />
    </button>
  );
}
