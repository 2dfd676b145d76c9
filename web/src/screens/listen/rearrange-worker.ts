import { HummingTideError } from "@humming-tide/core";
import { joinLikeness, type LengthWish, rearrange, songBars } from "@humming-tide/core/arrange";
import type { Grid } from "@humming-tide/core/grid";
import type { MusicAnalysis } from "@humming-tide/core/music";
import type { SongJoin } from "@humming-tide/core/show";

export interface RearrangeRequest {
  readonly analysis: MusicAnalysis;
  readonly grid: Grid;
  /** Null: only how alike the joins are that there are. */
  readonly wish: LengthWish | null;
  readonly joins: readonly SongJoin[];
}

export type RearrangeAnswer =
  | { readonly kind: "measured"; readonly likeness: readonly (number | null)[] }
  | {
      readonly kind: "found";
      readonly joins: readonly SongJoin[];
      readonly speed: number;
      readonly lengthSeconds: number;
      readonly trimEndSeconds: number | null;
      readonly fadeOutBars: number | null;
    }
  | { readonly kind: "failed"; readonly message: string };

self.onmessage = ({ data }: MessageEvent<RearrangeRequest>) => self.postMessage(answer(data));

function answer({ analysis, grid, wish, joins }: RearrangeRequest): RearrangeAnswer {
  try {
    const bars = songBars(analysis, grid);
    if (!wish) return { kind: "measured", likeness: joins.map((join) => joinLikeness(bars, join)) };
    const found = rearrange(bars, wish);
    return {
      kind: "found",
      ...found,
      joins: found.joins.map(({ fromSeconds, toSeconds }) => ({ fromSeconds, toSeconds })),
    };
  } catch (error) {
    if (error instanceof HummingTideError) return { kind: "failed", message: error.message };
    throw error;
  }
}
