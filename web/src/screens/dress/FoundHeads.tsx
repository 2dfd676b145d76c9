import { isSeen, type MediaFacts } from "@humming-tide/contract";
import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { placedAt, type Rectangle, turnSubject } from "@humming-tide/core/picture";
import type { Slide } from "@humming-tide/core/show";
import { frameAt } from "@humming-tide/core/time";
import { type ReactNode, useCallback, useRef } from "react";
import { useFilmClock } from "../../stage/player-context.tsx";
import { useAppSelector } from "../../store/store.ts";

interface FoundHeadsProps {
  plan: FilmPlan;
  slot: FilmSlot;
  slide: Slide;
}

/** A fine line around each head that was found in the slide's picture; it follows the move. */
export function FoundHeads({ plan, slot, slide }: FoundHeadsProps): ReactNode {
  const heads = useHeads(slide);
  const picture = useRef<HTMLDivElement>(null);
  const { move } = slot;
  const place = useCallback(
    (filmSeconds: number) => {
      const placed = placedAt(move, frameAt(filmSeconds, plan.rate));
      const style = picture.current?.style;
      if (!style) return;
      style.left = `${(100 * placed.x) / plan.size.width}%`;
      style.top = `${(100 * placed.y) / plan.size.height}%`;
      style.width = `${(100 * placed.width) / plan.size.width}%`;
      style.height = `${(100 * placed.height) / plan.size.height}%`;
    },
    [plan, move],
  );
  useFilmClock(place);
  if (heads.length === 0) return null;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0 overflow-hidden" data-testid="found-heads">
      <div ref={picture} className="absolute">
        {heads.map(({ x, y, width, height }) => (
          <div
            key={`${x} ${y}`}
            className="absolute rounded-[40%] border border-white/80 shadow-[0_0_0_1px_rgba(0,0,0,0.45)]"
            style={{
              left: `${100 * x}%`,
              top: `${100 * y}%`,
              width: `${100 * width}%`,
              height: `${100 * height}%`,
            }}
          />
        ))}
      </div>
    </div>
  );
}

/** The heads of a slide's own picture as it is turned; empty where none were found. */
export function useHeads({ sha256, turn }: Pick<Slide, "sha256" | "turn">): readonly Rectangle[] {
  const facts = useAppSelector((state) => (sha256 === null ? undefined : state.show.media[sha256]));
  return headsOf(facts, turn);
}

function headsOf(facts: MediaFacts | undefined, turn: Slide["turn"]): readonly Rectangle[] {
  if (!isSeen(facts) || !facts.subject) return [];
  return turnSubject(facts.subject, turn).heads ?? [];
}
