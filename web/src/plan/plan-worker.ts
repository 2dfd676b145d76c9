import { HummingTideError } from "@humming-tide/core";
import { type FilmPlan, planFilm } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import type { Size } from "@humming-tide/core/picture";
import type { ShowDocument } from "@humming-tide/core/show";

export interface PlanRequest {
  readonly document: ShowDocument;
  readonly song: MusicAnalysis | null;
  readonly pictureSizes: Readonly<Record<string, Size>>;
}

export type PlanAnswer =
  | { readonly kind: "planned"; readonly plan: FilmPlan }
  | { readonly kind: "failed"; readonly code: string; readonly message: string };

self.onmessage = ({ data }: MessageEvent<PlanRequest>) => {
  self.postMessage(answer(data));
};

function answer({ document, song, pictureSizes }: PlanRequest): PlanAnswer {
  try {
    if (!song) throw new HummingTideError("no-song", "This show has no song yet. Bring one in on Gather.");
    return { kind: "planned", plan: planFilm(document, { song, pictureSize: (sha256) => pictureSizes[sha256] }) };
  } catch (error) {
    const code = error instanceof HummingTideError ? error.code : "plan-failed";
    return { kind: "failed", code, message: (error as Error).message };
  }
}
