import type { RefObject } from "react";
import { MARGIN_WIDTH } from "../layout/row-size.ts";
import { type ScoreLayout, timeAt } from "../layout/score-layout.ts";
import { type RowPlaces, rowAt } from "./row-places.ts";

/**
 * From places on the screen to moments of the film, by the rows' geometry alone: rows out of sight
 * do not exist.
 */
export interface ScorePointer {
  /** Null above and below the rows. */
  readonly timeUnder: (clientX: number, clientY: number) => number | null;
}

export function scorePointer(
  rows: RefObject<HTMLElement | null>,
  layout: ScoreLayout | null,
  places: RowPlaces,
): ScorePointer {
  return {
    timeUnder: (clientX, clientY) => {
      const box = rows.current?.getBoundingClientRect();
      if (!box || !layout) return null;
      const row = rowAt(places, clientY - box.top);
      if (row < 0 || row >= layout.rows.length) return null;
      return timeAt(layout, row, (clientX - box.left - MARGIN_WIDTH) / (box.width - MARGIN_WIDTH));
    },
  };
}
