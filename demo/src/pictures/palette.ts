/** The hour decides the colours of sky, land and water; all scenes of one hour belong together. */
export interface Hour {
  /** From zenith to horizon. */
  readonly sky: readonly [string, string, string];
  readonly hills: readonly [far: string, near: string];
  readonly water: readonly [far: string, near: string];
  readonly figure: string;
  /** 0 by day to 1 at night: stars, windows and lanterns shine by this much. */
  readonly night: number;
}

export const AFTERNOON: Hour = {
  sky: ["#6fa3b8", "#b9cfc9", "#f3dfb6"],
  hills: ["#8fa9a3", "#5d8079"],
  water: ["#b8cfc4", "#4f8288"],
  figure: "#31474d",
  night: 0,
};

export const GOLDEN: Hour = {
  sky: ["#456c86", "#d99a6c", "#f9cf86"],
  hills: ["#7d7482", "#42555f"],
  water: ["#e2a972", "#2f5b69"],
  figure: "#22333c",
  night: 0.25,
};

export const DUSK: Hour = {
  sky: ["#182d47", "#5a5378", "#e08a68"],
  hills: ["#3d4360", "#1f2d3f"],
  water: ["#a56d6c", "#1a3548"],
  figure: "#101c28",
  night: 0.7,
};

export const NIGHT: Hour = {
  sky: ["#070f20", "#10233c", "#284157"],
  hills: ["#14243a", "#0a1524"],
  water: ["#24415a", "#081626"],
  figure: "#050b14",
  night: 1,
};

export const LANTERN_COLOURS = ["#ffb347", "#ff8c5a", "#ffd27a", "#f26d6d", "#ffe0a3"] as const;
export const BOAT_COLOURS = ["#b8483f", "#2f6f73", "#d9a441", "#31547a", "#e6d7b8", "#7c4a63"] as const;
