import type { FilmPlan } from "@humming-tide/core/film";
import { useCallback, useMemo, useState } from "react";
import { useAppSelector } from "../../store/store.ts";
import {
  keepLanes,
  keepRowSize,
  keptLanes,
  keptRowSize,
  NO_LANES,
  ROWS_TOP,
  type RowSizeName,
  rowSize,
} from "./layout/row-size.ts";
import { scoreLayout } from "./layout/score-layout.ts";
import { wholeSong } from "./layout/whole-song.ts";

/** How the film is laid into rows, and what a person chooses about that; kept in this browser. */
export function useScoreRows(plan: FilmPlan | null) {
  const music = plan?.music ?? null;
  const filmSeconds = plan?.sound.lengthSeconds ?? 0;
  const hasMarkers = (music?.markers.length ?? 0) > 0;
  const [sizeName, setSizeName] = useState(keptRowSize);
  const [height, measure] = useHeight();
  const whole = useMemo(
    () =>
      sizeName === "whole" && music && height !== null ? wholeSong(music.grid, filmSeconds, height, hasMarkers) : null,
    [sizeName, music, filmSeconds, height, hasMarkers],
  );
  const layout = useMemo(
    () => music && (whole?.layout ?? scoreLayout(music.grid, filmSeconds)),
    [music, filmSeconds, whole],
  );
  const [hasLanes, setLanes] = useState(keptLanes);
  const voices = useAppSelector((state) => state.show.document?.voices.length ?? 0) > 0;
  const clips = plan?.sound.pieces.some(({ owner }) => owner.kind === "clip") ?? false;
  const size = useMemo(
    () => whole?.size ?? rowSize(sizeName, hasMarkers, hasLanes ? { voices, clips } : NO_LANES),
    [whole, sizeName, hasMarkers, hasLanes, voices, clips],
  );
  return {
    /** Null while there is no film. */
    layout,
    size,
    sizeName,
    chooseSize: (name: RowSizeName): void => {
      keepRowSize(name);
      setSizeName(name);
    },
    /** Whether lanes of sound are shown; null where there is nothing to show, or no room. */
    lanes: (voices || clips) && sizeName !== "whole" ? hasLanes : null,
    showLanes: (isShown: boolean): void => {
      keepLanes(isShown);
      setLanes(isShown);
    },
    /** For the element that scrolls the rows: those of "whole" share its height. */
    measure,
  };
}

/** The height in pixels that an element has for rows, as it changes; null before it is there. */
function useHeight(): [height: number | null, note: (element: HTMLElement | null) => (() => void) | undefined] {
  const [height, setHeight] = useState<number | null>(null);
  const note = useCallback((element: HTMLElement | null) => {
    if (!element) return undefined;
    const observer = new ResizeObserver(() => setHeight(element.clientHeight - ROWS_TOP));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [height, note];
}
