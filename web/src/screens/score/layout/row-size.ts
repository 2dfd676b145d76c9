/** How high rows of the Score are: many at once, large pictures, or the whole song in sight. */
export type RowSizeName = "small" | "medium" | "large" | "whole";

/**
 * Pixels. A row is, from top to bottom, the lane of passages, the pictures, the music with its grid
 * and markers, and sound lanes.
 */
export interface RowSize {
  readonly pictures: number;
  readonly wave: number;
  /** Under beats: the pennants of markers, where there are any. */
  readonly markers: number;
  /**
   * Lanes of voices and of the sound of clips; 0 where there are none, or where they are folded
   * away.
   */
  readonly voices: number;
  readonly clips: number;
  /** Of the music's level under speech. */
  readonly level: number;
}

const HEIGHTS: Readonly<Record<Exclude<RowSizeName, "whole">, Pick<RowSize, "pictures" | "wave">>> = {
  small: { pictures: 34, wave: 16 },
  medium: { pictures: 60, wave: 30 },
  large: { pictures: 104, wave: 56 },
};
const MARKER_HEIGHT = 14;

export const LEVEL_LANE = 18;
export const SOUND_LANE = 24;

/** Which of the sound lanes are there. */
export interface ShownLanes {
  readonly voices: boolean;
  readonly clips: boolean;
}

export const NO_LANES: ShownLanes = { voices: false, clips: false };

/** The rows of "whole" are those of `wholeSong`; until its room is known they are small. */
export const rowSize = (name: RowSizeName, hasMarkers: boolean, { voices, clips }: ShownLanes): RowSize => ({
  ...HEIGHTS[name === "whole" ? "small" : name],
  markers: hasMarkers ? MARKER_HEIGHT : 0,
  voices: voices ? SOUND_LANE : 0,
  clips: clips ? SOUND_LANE : 0,
  level: voices || clips ? LEVEL_LANE : 0,
});

/** Left of the rows: bar, section and time. */
export const MARGIN_WIDTH = 62;
export const PASSAGE_LANE = 16;
/** Under the waveform: beats. */
export const GRID_HEIGHT = 16;
const ROW_GAP = 10;
/** Above the first row. */
export const ROWS_TOP = 10;

export const musicHeight = ({ wave, markers }: RowSize): number => wave + GRID_HEIGHT + markers;
export const soundHeight = ({ level, voices, clips }: RowSize): number => level + voices + clips;
export const rowHeight = (size: RowSize): number =>
  PASSAGE_LANE + size.pictures + musicHeight(size) + soundHeight(size) + ROW_GAP;

const KEPT = "humming-tide score rows";

export function keptRowSize(): RowSizeName {
  const kept = localStorage.getItem(KEPT);
  return kept === "small" || kept === "large" || kept === "whole" ? kept : "medium";
}

export const keepRowSize = (name: RowSizeName): void => localStorage.setItem(KEPT, name);

const KEPT_LANES = "humming-tide score sound lanes";
export const keptLanes = (): boolean => localStorage.getItem(KEPT_LANES) !== "folded";
export const keepLanes = (shown: boolean): void => localStorage.setItem(KEPT_LANES, shown ? "shown" : "folded");

/** How much of the screen the stage takes. */
export type StageSize = "usual" | "large";

const KEPT_STAGE = "humming-tide score stage";
export const keptStageSize = (): StageSize => (localStorage.getItem(KEPT_STAGE) === "large" ? "large" : "usual");
export const keepStageSize = (size: StageSize): void => localStorage.setItem(KEPT_STAGE, size);
