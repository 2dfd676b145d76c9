/** How high rows of the Score are: many at once, or large pictures. */
export type RowSizeName = "small" | "medium" | "large";

/** Pixels. A row is, from top to bottom, the lane of passages, the pictures, and the music with its grid and markers. */
export interface RowSize {
  readonly pictures: number;
  readonly wave: number;
  /** Under beats: the pennants of markers, where there are any. */
  readonly markers: number;
}

const HEIGHTS: Readonly<Record<RowSizeName, Omit<RowSize, "markers">>> = {
  small: { pictures: 34, wave: 16 },
  medium: { pictures: 60, wave: 30 },
  large: { pictures: 104, wave: 56 },
};
const MARKER_HEIGHT = 14;

export const rowSize = (name: RowSizeName, hasMarkers: boolean): RowSize => ({
  ...HEIGHTS[name],
  markers: hasMarkers ? MARKER_HEIGHT : 0,
});

/** Left of the rows: bar, section and time. */
export const MARGIN_WIDTH = 62;
export const PASSAGE_LANE = 16;
/** Under the waveform: beats. */
export const GRID_HEIGHT = 16;
const ROW_GAP = 10;

export const musicHeight = ({ wave, markers }: RowSize): number => wave + GRID_HEIGHT + markers;
export const rowHeight = (size: RowSize): number => PASSAGE_LANE + size.pictures + musicHeight(size) + ROW_GAP;

const KEPT = "humming-tide score rows";

export function keptRowSize(): RowSizeName {
  const kept = localStorage.getItem(KEPT);
  return kept === "small" || kept === "large" ? kept : "medium";
}

export const keepRowSize = (name: RowSizeName): void => localStorage.setItem(KEPT, name);
