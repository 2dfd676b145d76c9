import { movePassageStart } from "@humming-tide/core/show";
import { Lock } from "lucide-react";
import type { KeyboardEvent, ReactNode } from "react";
import { edit } from "../../../store/edit.ts";
import { useMovedByKeys } from "../moved-by-keys.ts";
import type { PassageMark } from "./row-pieces.ts";
import type { EdgeDrags } from "./use-edge-drag.ts";

/**
 * The name of a passage over its first picture; dragged, or moved with the arrows, the passage
 * begins with another slide.
 */
export function PassageEdge({ mark, drags }: { mark: PassageMark; drags: EdgeDrags }): ReactNode {
  const { passageId, name, share, locked, movable } = mark;
  const { ref, note } = useMovedByKeys<HTMLDivElement>(`passage ${passageId}`);
  const step = (event: KeyboardEvent): void => {
    const direction = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
    if (direction === 0 || !movable || event.ctrlKey || event.altKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    event.stopPropagation();
    note();
    edit((show) => {
      const first = show.slides.findIndex((slide) => slide.passageId === passageId);
      const target = first < 0 ? undefined : show.slides[first + direction];
      return target ? movePassageStart(show, passageId, target.id) : show;
    });
  };
  return (
    <div
      className="absolute -top-[9px] z-[2] flex h-[24px] text-[11px] leading-[15px] whitespace-nowrap text-soft"
      style={{ left: `${share * 100}%` }}
    >
      <div
        ref={ref}
        role="slider"
        tabIndex={movable ? 0 : -1}
        data-testid="passage-edge"
        data-passage={passageId}
        aria-label={`Beginning of ${name}`}
        aria-valuenow={Math.round(share * 1000)}
        aria-valuetext={`${name} begins here`}
        aria-disabled={!movable}
        title={movable ? `${name} begins here: drag to another slide` : name}
        onPointerDown={(event) => movable && drags.passage(event, passageId)}
        onKeyDown={step}
        className={`flex touch-none items-end ${movable ? "cursor-ew-resize hover:text-ink" : ""}`}
      >
        <span className="flex h-[15px] items-center gap-1 rounded-t-[3px] border-l-2 border-line-strong bg-high px-1.5">
          {locked && <Lock size={9} strokeWidth={2.6} className="text-heather" aria-hidden />}
          {name}
        </span>
      </div>
    </div>
  );
}
