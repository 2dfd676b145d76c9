import { type ReactNode, type RefObject, useCallback, useRef } from "react";
import { useFilmClock, usePlayer } from "../../../stage/player-context.tsx";
import { MARGIN_WIDTH, PASSAGE_LANE } from "../layout/row-size.ts";
import { placeAt, type ScoreLayout } from "../layout/score-layout.ts";
import type { RowPlaces } from "./row-places.ts";

interface PlayheadProps {
  layout: ScoreLayout;
  places: RowPlaces;
  rows: RefObject<HTMLDivElement | null>;
  /** Brings a row into sight. */
  reveal: (row: number) => void;
}

/** The line that runs through the rows while the film plays; it keeps its row in sight. */
export function Playhead({ layout, places, rows, reveal }: PlayheadProps): ReactNode {
  const line = useRef<HTMLDivElement>(null);
  const shownRow = useRef(-1);
  const player = usePlayer();
  const move = useCallback(
    (filmSeconds: number) => {
      if (!line.current || !rows.current) return;
      const { row, share } = placeAt(layout, filmSeconds);
      const x = MARGIN_WIDTH + share * (rows.current.clientWidth - MARGIN_WIDTH);
      const [top, bottom] = [places.tops[row] ?? 0, places.tops[row + 1] ?? 0];
      line.current.style.transform = `translate(${x}px, ${top + PASSAGE_LANE - 4}px)`;
      line.current.style.height = `${bottom - top - PASSAGE_LANE}px`;
      if (row !== shownRow.current && player.state === "playing") reveal(row);
      shownRow.current = row;
    },
    [layout, places, rows, reveal, player],
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
