import type { Beat } from "../../music/index.ts";

/** Two-column beat text: one line a beat, `seconds<TAB>position in bar` (1 starts a bar, 0 is unknown); no beats, no text. */
export function writeBeatsText(beats: readonly Pick<Beat, "seconds" | "position">[]): string {
  return beats.map((beat) => `${beat.seconds.toFixed(6)}\t${beat.position}\n`).join("");
}
