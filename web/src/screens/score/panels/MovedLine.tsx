import { counted } from "@humming-tide/core/language";
import { type ReactNode, useEffect } from "react";
import type { MovedLandings } from "../../../plan/moved-landings.ts";
import { showActions } from "../../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { viewActions } from "../../../store/view-slice.ts";
import { Button } from "../../../ui/Button.tsx";

/** So long the places before the change are marked in the rows. */
const SHOWN_MS = 12_000;

/** Says what the last change has moved, and gives it back. */
export function MovedLine(): ReactNode {
  const dispatch = useAppDispatch();
  const moved = useAppSelector((state) => state.view.moved);
  const canUndo = useAppSelector((state) => state.show.past.length > 0 && state.show.draft === null);
  useEffect(() => {
    if (!moved) return;
    const timer = setTimeout(() => dispatch(viewActions.movedSeen()), SHOWN_MS);
    return () => clearTimeout(timer);
  }, [moved, dispatch]);
  return (
    <div className="flex min-w-0 items-center gap-2 text-[13px] text-soft" aria-live="polite" data-testid="moved">
      {moved && (
        <>
          <span className="truncate">{movedText(moved)}</span>
          {canUndo && (
            <Button kind="quiet" className="py-0.5 whitespace-nowrap" onClick={() => dispatch(showActions.undone())}>
              Undo this
            </Button>
          )}
        </>
      )}
    </div>
  );
}

function movedText({ moved, stayed, came, went }: MovedLandings): string {
  const furthest = Math.max(0, ...moved.map(({ fromSeconds, toSeconds }) => Math.abs(toSeconds - fromSeconds)));
  const parts = [
    moved.length > 0 && `${counted(moved.length, "landing")} moved, the furthest by ${furthest.toFixed(2)} s`,
    came.length > 0 && `${counted(came.length, "picture")} came into the film`,
    went.length > 0 && `${counted(went.length, "picture")} left it`,
    `${stayed} stayed`,
  ];
  return `${parts.filter(Boolean).join("; ")}.`;
}
