import type { FilmPlan } from "@humming-tide/core/film";
import type { Grid } from "@humming-tide/core/grid";
import { lockLanding } from "@humming-tide/core/show";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { isForControl, letterKeysOn } from "../../keys/keys.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { Stage } from "../../stage/Stage.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { showActions } from "../../store/show-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { PacePanel } from "./PacePanel.tsx";
import { Playhead } from "./Playhead.tsx";
import { piecesByRow, ScoreRowView, signatureOf } from "./ScoreRowView.tsx";
import { SlotPanel } from "./SlotPanel.tsx";
import { placeAt, type ScoreLayout, scoreLayout, timeAt } from "./score-layout.ts";
import { useLandingDrag } from "./use-landing-drag.ts";

/** The whole song as rows of bars with every slide over it; beside it the stage and what can be changed. */
export function ScoreScreen(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  const rowsElement = useRef<HTMLDivElement>(null);
  const layout = useScoreLayout(plan);
  const rows = useMemo(() => (plan && layout ? piecesByRow(plan, layout) : []), [plan, layout]);
  const startDrag = useLandingDrag(rowsElement, layout);
  useScoreKeys(layout);
  if (!plan || !layout) {
    return problem ? (
      <EmptyState
        title="No film yet"
        action={
          <Link className="underline" to="../gather">
            To Gather
          </Link>
        }
      >
        {problem.message}
      </EmptyState>
    ) : (
      <p className="p-10 text-quiet">Laying the slides …</p>
    );
  }
  return (
    <div className="flex h-full min-h-0">
      <div className="relative min-w-0 flex-1 overflow-y-auto py-3 pr-4 pl-1" data-testid="score">
        <div ref={rowsElement} className="relative">
          {layout.rows.map((row) => (
            <ScoreRowView
              key={row.index}
              row={row}
              layout={layout}
              pieces={rows[row.index]!}
              signature={signatureOf(rows[row.index]!, plan.rate)}
              rate={plan.rate}
              fadeStartSeconds={plan.sound.fadeOut.startSeconds}
              filmSeconds={plan.sound.lengthSeconds}
              startDrag={startDrag}
            />
          ))}
          <Playhead layout={layout} rows={rowsElement} />
        </div>
      </div>
      <aside className="flex w-[360px] shrink-0 flex-col overflow-y-auto border-l border-line bg-raised">
        <div className="aspect-video w-full shrink-0">
          <Stage plan={plan} />
        </div>
        <Transport plan={plan} />
        <PacePanel plan={plan} />
        <SlotPanel plan={plan} />
      </aside>
    </div>
  );
}

/** The layout follows from the grid alone, so a re-lay of slides keeps it, and with it every row that looks the same. */
function useScoreLayout(plan: FilmPlan | null): ScoreLayout | null {
  const [grid, setGrid] = useState<Grid | null>(null);
  if (plan && (!grid || !isSameGrid(grid, plan.grid))) setGrid(plan.grid);
  const filmSeconds = plan?.sound.lengthSeconds ?? 0;
  return useMemo(() => (grid ? scoreLayout(grid, filmSeconds) : null), [grid, filmSeconds]);
}

/** Plans come from a worker, so equal grids are never the same object. */
const isSameGrid = (a: Grid, b: Grid): boolean =>
  a.beatsPerBar === b.beatsPerBar &&
  a.beats.length === b.beats.length &&
  a.beats.every((beat, i) => beat.seconds === b.beats[i]!.seconds && beat.position === b.beats[i]!.position);

/** Up and Down go from row to row, L locks and unlocks the selected slide's landing. */
function useScoreKeys(layout: ScoreLayout | null): void {
  const player = usePlayer();
  const dispatch = useAppDispatch();
  const onKey = useCallback(
    (event: KeyboardEvent) => {
      if (!layout || isForControl(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "ArrowUp" || event.key === "ArrowDown") {
        event.preventDefault();
        const { row, share } = placeAt(layout, player.filmSeconds());
        const target = Math.max(0, Math.min(layout.rows.length - 1, row + (event.key === "ArrowUp" ? -1 : 1)));
        player.seek(timeAt(layout, target, share));
      } else if (event.key.toLowerCase() === "l" && letterKeysOn()) {
        const edited = toggledLock();
        if (edited) dispatch(showActions.edited(edited));
      }
    },
    [layout, player, dispatch],
  );
  useEffect(() => {
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onKey]);
}

function toggledLock(): ReturnType<typeof lockLanding> | null {
  const { show, view } = store.getState();
  const slot = view.selectedSlot === null ? undefined : view.plan?.slots[view.selectedSlot];
  if (!show.document || !slot?.landing || slot.round > 0) return null;
  return lockLanding(show.document, slot.slideId, slot.locked ? null : slot.landing.seconds);
}
