import { type ReactNode, type RefObject, useCallback, useRef } from "react";
import { useFilmClock, usePlayer } from "../../stage/player-context.tsx";
import { placeAt, type ScoreLayout } from "./score-layout.ts";

/** The line that runs through the rows while the film plays; it keeps its row in sight. */
export function Playhead({ layout, rows }: { layout: ScoreLayout; rows: RefObject<HTMLDivElement | null> }): ReactNode {
  const line = useRef<HTMLDivElement>(null);
  const shownRow = useRef(-1);
  const player = usePlayer();
  const move = useCallback(
    (filmSeconds: number) => {
      const { row, share } = placeAt(layout, filmSeconds);
      const track = rows.current?.querySelector<HTMLElement>(`[data-row-track="${row}"]`);
      if (!line.current || !track) return;
      const top = (track.parentElement?.offsetTop ?? 0) - 2;
      line.current.style.transform = `translate(${track.offsetLeft + share * track.offsetWidth}px, ${top}px)`;
      line.current.style.height = `${track.offsetHeight + 4}px`;
      if (row !== shownRow.current && player.state === "playing")
        track.scrollIntoView({ block: "nearest", behavior: "smooth" });
      shownRow.current = row;
    },
    [layout, rows, player],
  );
  useFilmClock(move);
  return (
    <div
      ref={line}
      aria-hidden
      data-testid="playhead"
      className="pointer-events-none absolute top-0 left-0 z-[4] -ml-px w-[2px] bg-ink shadow-[0_0_0_1px_var(--ground)]"
    />
  );
}
