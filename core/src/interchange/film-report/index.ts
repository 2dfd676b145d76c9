import { z } from "zod";
import { HummingTideError } from "../../failure/index.ts";
import type { FilmPlan } from "../../film/index.ts";

/**
 * The film report: what was planned, for scripts and for measuring the film afterwards. startFrame is the landing's
 * frame, endFrame is exclusive; slot 0 starts at frame 0 and has no landing; landingSeconds is film time of the musical event.
 */
export const filmReportSchema = z.object({
  fps: z.object({ num: z.number().int().positive(), den: z.number().int().positive() }),
  durationSeconds: z.number().positive(),
  slots: z
    .array(
      z.object({
        index: z.number().int().nonnegative(),
        source: z.string(),
        startFrame: z.number().int().nonnegative(),
        endFrame: z.number().int().positive(),
        landingSeconds: z.number().nullable(),
        landingErrorMs: z.number().nullable(),
        transitionIn: z.object({
          kind: z.string(),
          startFrame: z.number().int().nonnegative(),
          endFrame: z.number().int().nonnegative(),
        }),
      }),
    )
    .min(1),
  music: z.object({
    path: z.string(),
    sha256: z.string(),
    filmStartSeconds: z.number().nonnegative(),
    songStartSeconds: z.number().nonnegative(),
  }),
});
export type FilmReport = z.infer<typeof filmReportSchema>;

export function filmReport(plan: FilmPlan, musicPath: string): FilmReport {
  return {
    fps: { num: plan.rate.num, den: plan.rate.den },
    durationSeconds: (plan.totalFrames * plan.rate.den) / plan.rate.num,
    slots: plan.slots.map((slot) => ({
      index: slot.index,
      source: slot.fileName,
      startFrame: slot.startFrame,
      endFrame: slot.endFrame,
      landingSeconds: slot.landing?.seconds ?? null,
      landingErrorMs: slot.landingErrorMs,
      transitionIn: { ...slot.transitionIn },
    })),
    music: {
      path: musicPath,
      sha256: plan.sound.songSha256,
      filmStartSeconds: plan.sound.filmStartSeconds,
      songStartSeconds: plan.sound.songStartSeconds,
    },
  };
}

/** Reads a film report. Throws `film-report` with the first place that is wrong; slots must tile the film from frame 0. */
export function parseFilmReport(text: string): FilmReport {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (cause) {
    throw new HummingTideError("film-report", `The report is not JSON: ${(cause as Error).message}`, { cause });
  }
  const parsed = filmReportSchema.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new HummingTideError(
      "film-report",
      `The report is not a film report: ${issue.path.join(".") || "top level"}: ${issue.message}.`,
    );
  }
  let from = 0;
  for (const [i, slot] of parsed.data.slots.entries()) {
    if (slot.startFrame !== from || slot.endFrame <= slot.startFrame) {
      throw new HummingTideError(
        "film-report",
        `Slots tile the film, but slot ${i} runs from frame ${slot.startFrame} to ${slot.endFrame} and the one before it ends at ${from}.`,
      );
    }
    from = slot.endFrame;
  }
  return parsed.data;
}
