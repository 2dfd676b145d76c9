import type { Milliseconds, Seconds } from "../time/index.ts";

/** How the beat is felt, against how it was heard. */
export type BeatLevel = "twice" | "triple" | "half" | "third";

/**
 * A person's correction of the grid. Edits are kept, not their result, so that they survive a
 * better analysis. Times are seconds of the song.
 */
export type GridEdit =
  /** A beat half way between each two; the count of a bar stays, so bars become half as long. */
  | { readonly kind: "twice" }
  /**
   * Every second beat, starting with those that hold more bar starts; bars keep their count and
   * become twice as long.
   */
  | { readonly kind: "half" }
  /** Every third beat, in the same way. */
  | { readonly kind: "third" }
  /** Two beats between each two: what was felt as one long beat is three. */
  | { readonly kind: "triple" }
  /** One of the four from the start (inclusive) to the end (exclusive) alone. */
  | {
      readonly kind: "stretchLevel";
      readonly level: BeatLevel;
      readonly startSeconds: Seconds;
      readonly endSeconds: Seconds;
    }
  /**
   * A bar starts at the beat nearest to `seconds`; bars are counted on from there, up to the next
   * such beat.
   */
  | { readonly kind: "oneHere"; readonly seconds: Seconds }
  /**
   * Bars of so many beats from the bar that holds `seconds` on, up to the next beat that a person
   * called the one.
   */
  | { readonly kind: "meter"; readonly beatsPerBar: number; readonly seconds: Seconds }
  /** The whole grid later (or earlier, if negative). */
  | { readonly kind: "nudge"; readonly milliseconds: Milliseconds }
  /**
   * The beat nearest to `seconds` goes to `toSeconds`; its neighbours follow, less and less, up to
   * the next anchor.
   */
  | { readonly kind: "drag"; readonly seconds: Seconds; readonly toSeconds: Seconds }
  /**
   * From the beat nearest to the start to the end, evenly: at a tempo, or (null) with as many beats
   * as there are.
   */
  | {
      readonly kind: "fixedTempo";
      readonly startSeconds: Seconds;
      readonly endSeconds: Seconds;
      readonly bpm: number | null;
    }
  /** No beats from the start (inclusive) to the end (exclusive). */
  | { readonly kind: "freeTime"; readonly startSeconds: Seconds; readonly endSeconds: Seconds }
  | { readonly kind: "addBeat"; readonly seconds: Seconds }
  /** Takes away the beat nearest to `seconds`. */
  | { readonly kind: "deleteBeat"; readonly seconds: Seconds }
  /**
   * Beats that a person tapped replace what lies between the first and the last of them; `seconds`
   * rise.
   */
  | { readonly kind: "tapped"; readonly seconds: readonly Seconds[] }
  /**
   * Beats of a file replace what lies between the first and the last of them; they rise. Position 0
   * is unknown and counted on.
   */
  | { readonly kind: "given"; readonly beats: readonly { readonly seconds: Seconds; readonly position: number }[] };
