import type { Doubt } from "@humming-tide/core/music";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useCallback, useEffect } from "react";
import { isForControl, letterKeysOn } from "../../keys/keys.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Panel } from "../../ui/Panel.tsx";

const REASONS: Readonly<Record<Doubt["reason"], string>> = {
  faint: "beats hardly heard",
  tempo: "the pulse jumps",
  bar: "the bar's count changes",
  free: "no pulse found",
};

/** How long before a doubt playing starts, so that the ear has the pulse. */
const RUN_UP_SECONDS = 2;

/** The stretches where the grid wants an ear, to be visited one by one with D. */
export function Doubts(): ReactNode {
  const doubts = useAppSelector((state) => state.song.analysis!.doubts);
  const player = usePlayer();
  const visit = useCallback(
    (doubt: Doubt) => {
      player.seek(Math.max(0, doubt.startSeconds - RUN_UP_SECONDS));
      if (player.state === "ready") player.toggle();
    },
    [player],
  );
  const next = useCallback(() => {
    // Two seconds of run-up must not bring the same one again.
    const after = player.filmSeconds() + RUN_UP_SECONDS + 0.05;
    const doubt = doubts.find(({ startSeconds }) => startSeconds > after) ?? doubts[0];
    if (doubt) visit(doubt);
  }, [doubts, player, visit]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== "d" || event.ctrlKey || event.metaKey || event.altKey) return;
      if (!letterKeysOn() || isForControl(event)) return;
      event.preventDefault();
      next();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [next]);
  return (
    <Panel title="Wants an ear" aside={<span className="text-[13px] text-quiet">{doubts.length || "nothing"}</span>}>
      {doubts.length === 0 ? (
        <p className="text-[13px] text-soft">No stretch is in doubt.</p>
      ) : (
        <>
          <ul aria-label="Doubtful stretches" className="-mx-2 mb-2 max-h-[132px] overflow-y-auto">
            {doubts.map((doubt) => (
              <li key={doubt.startSeconds}>
                <button
                  type="button"
                  className="flex w-full justify-between gap-3 rounded px-2 py-1 text-left text-[13px] hover:bg-high"
                  onClick={() => visit(doubt)}
                >
                  <span className="tabular-nums text-soft">
                    {clockText(doubt.startSeconds)} to {clockText(doubt.endSeconds)}
                  </span>
                  <span className="text-ink">{REASONS[doubt.reason]}</span>
                </button>
              </li>
            ))}
          </ul>
          <Button className="w-full" onClick={next}>
            Hear the next one <kbd className="ml-1 text-quiet">D</kbd>
          </Button>
        </>
      )}
    </Panel>
  );
}
